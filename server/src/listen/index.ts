/** Serving other devices: addresses, certificates. */
export { inUrl, isEverywhere, ownAddresses, ownNames } from './addresses';
export { fingerprint, makeCertificate, readCertificate, type Certificate } from './certificate';

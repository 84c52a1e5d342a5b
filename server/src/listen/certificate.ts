import { chmodSync, existsSync, readFileSync, writeFileSync } from 'node:fs';
import { X509Certificate, createPrivateKey } from 'node:crypto';
import { isIP } from 'node:net';
import { join } from 'node:path';
import { generate } from 'selfsigned';
import { SetUpError } from '../cluster';

/** A certificate with its key, as PEM. */
export interface Certificate {
  cert: string;
  key: string;
  /** The authority that signed a self-made one, to be trusted by a phone; null for one from elsewhere. */
  authority: string | null;
}

/** By what an authority is told from one that somebody else made: to be compared before it is trusted. */
export const fingerprint = (authority: string): string => new X509Certificate(authority).fingerprint256;

/** Phones refuse longer ones. */
const DAYS = 800;
const AUTHORITY_YEARS = 10;

const files = (dir: string) => ({
  cert: join(dir, 'certificate.pem'),
  key: join(dir, 'certificate-key.pem'),
  authority: join(dir, 'authority.pem'),
  authorityKey: join(dir, 'authority-key.pem'),
});

const later = (days: number): Date => new Date(Date.now() + days * 86_400_000);
/** A day back: clocks on boats differ. */
const since = (): Date => later(-1);

function keep(file: string, text: string, secret: boolean): void {
  writeFileSync(file, text, { mode: secret ? 0o600 : 0o644 });
  if (secret) chmodSync(file, 0o600);
}

/**
 * Makes a certificate for names and addresses, signed by an authority of this installation; the authority stays the same,
 * so that a phone that trusts it trusts the next certificate too. @returns the authority, as PEM
 */
export async function makeCertificate(dir: string, names: string[]): Promise<string> {
  const at = files(dir);
  if (!existsSync(at.authority) || !existsSync(at.authorityKey)) {
    const made = await generate([{ name: 'commonName', value: 'Restless Shoal on this boat' }], {
      keyType: 'ec',
      algorithm: 'sha256',
      notBeforeDate: since(),
      notAfterDate: later(AUTHORITY_YEARS * 365),
      extensions: [
        { name: 'basicConstraints', cA: true, critical: true },
        { name: 'keyUsage', keyCertSign: true, cRLSign: true, critical: true },
      ],
    });
    keep(at.authority, made.cert, false);
    keep(at.authorityKey, made.private, true);
  }
  const made = await generate([{ name: 'commonName', value: names[0] }], {
    keyType: 'ec',
    algorithm: 'sha256',
    notBeforeDate: since(),
    notAfterDate: later(DAYS),
    ca: { cert: readFileSync(at.authority, 'utf8'), key: readFileSync(at.authorityKey, 'utf8') },
    extensions: [
      { name: 'basicConstraints', cA: false, critical: true },
      { name: 'keyUsage', digitalSignature: true, critical: true },
      { name: 'extKeyUsage', serverAuth: true },
      { name: 'subjectAltName', altNames: names.map((name) => (isIP(name) ? { type: 7, ip: name } : { type: 2, value: name })) },
    ],
  });
  keep(at.cert, made.cert, false);
  keep(at.key, made.private, true);
  return readFileSync(at.authority, 'utf8');
}

/** Reads the certificate to serve with: the given one, or the self-made of the data folder. @throws SetUpError in plain words */
export function readCertificate(dir: string, given: { cert?: string; key?: string }): Certificate {
  const own = files(dir);
  const selfMade = given.cert === undefined && given.key === undefined;
  if (!selfMade && (given.cert === undefined || given.key === undefined))
    throw new SetUpError('--cert and --key belong together: give both');
  const [certFile, keyFile] = selfMade ? [own.cert, own.key] : [given.cert!, given.key!];
  if (selfMade && !existsSync(certFile))
    throw new SetUpError(
      'serve --listen needs a certificate: make one with ./shoal certificate, or give --cert FILE --key FILE (docs/phone.md says how a phone comes to trust it)',
    );
  const read = (file: string, what: string): string => {
    try {
      return readFileSync(file, 'utf8');
    } catch (error) {
      throw new SetUpError(`${what} ${file} cannot be read: ${(error as Error).message}`);
    }
  };
  const [cert, key] = [read(certFile, 'the certificate'), read(keyFile, 'the key')];
  let read509: X509Certificate;
  try {
    read509 = new X509Certificate(cert);
  } catch {
    throw new SetUpError(`${certFile} is no certificate in PEM form`);
  }
  try {
    if (!read509.checkPrivateKey(createPrivateKey(key)))
      throw new SetUpError(`the key ${keyFile} does not belong to the certificate ${certFile}`);
  } catch (error) {
    if (error instanceof SetUpError) throw error;
    throw new SetUpError(`${keyFile} is no private key in PEM form`);
  }
  if (Date.parse(read509.validTo) < Date.now())
    throw new SetUpError(
      `the certificate ${certFile} ended on ${read509.validTo}${selfMade ? ': make a new one with ./shoal certificate' : ''}`,
    );
  return { cert, key, authority: selfMade ? read(own.authority, 'the authority') : null };
}

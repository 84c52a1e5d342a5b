import 'reflect-metadata';
import { webcrypto } from 'node:crypto';
import { BlockList, isIP } from 'node:net';
import { AsnConvert } from '@peculiar/asn1-schema';
import { GeneralName, GeneralSubtree, GeneralSubtrees, id_ce_nameConstraints, NameConstraints } from '@peculiar/asn1-x509';
import * as x509 from '@peculiar/x509';

/** A certificate and its key, as PEM. */
export interface Signed {
  cert: string;
  key: string;
}

/** Phones refuse certificates of more days. */
const DAYS = 800;
const AUTHORITY_DAYS = 3650;

const ALGORITHM = { name: 'ECDSA', namedCurve: 'P-256', hash: 'SHA-256' };
// Not names of machines: some check even these against what an authority may sign for.
const AUTHORITY = 'CN=Restless Shoal on this boat';
const SERVER = 'CN=Restless Shoal server';

/** Names that nobody owns: of this machine, and those kept for networks at home (RFC 6762, 8375). */
const PRIVATE_NAMES = ['localhost', 'local', 'lan', 'home.arpa', 'internal'];
/** Networks that nobody owns (RFC 1918, 3927, 4193, 4291). */
const PRIVATE_NETWORKS = [
  '10.0.0.0/8',
  '172.16.0.0/12',
  '192.168.0.0/16',
  '169.254.0.0/16',
  '127.0.0.0/8',
  'fc00::/7',
  'fe80::/10',
  '::1/128',
];

const later = (days: number): Date => new Date(Date.now() + days * 86_400_000);
/** A day back: clocks on boats differ. */
const since = (): Date => later(-1);

const newKeys = async (): Promise<webcrypto.CryptoKeyPair> =>
  webcrypto.subtle.generateKey(ALGORITHM, true, ['sign', 'verify']) as Promise<webcrypto.CryptoKeyPair>;

const toPem = async (key: webcrypto.CryptoKey): Promise<string> =>
  x509.PemConverter.encode(await webcrypto.subtle.exportKey('pkcs8', key), 'PRIVATE KEY');

/** What an authority may sign for: what is private, and what it is made with. */
function constraints(names: string[]): x509.Extension {
  const machines = names.filter((name) => !isIP(name)).map((dNSName) => ({ dNSName }));
  const addresses = names.filter((name) => isIP(name)).map((name) => `${name}/${isIP(name) === 4 ? 32 : 128}`);
  const permitted = [
    ...PRIVATE_NAMES.map((dNSName) => ({ dNSName })),
    ...machines,
    ...[...PRIVATE_NETWORKS, ...addresses].map((iPAddress) => ({ iPAddress })),
  ].map((name) => new GeneralSubtree({ base: new GeneralName(name) }));
  const value = new NameConstraints({ permittedSubtrees: new GeneralSubtrees(permitted) });
  return new x509.Extension(id_ce_nameConstraints, true, AsnConvert.serialize(value));
}

/** Makes an authority that may sign for private names and addresses and for those given (RFC 5280, 4.2.1.10). */
export async function makeAuthority(names: string[]): Promise<Signed> {
  const keys = await newKeys();
  const cert = await x509.X509CertificateGenerator.createSelfSigned({
    name: AUTHORITY,
    keys,
    signingAlgorithm: ALGORITHM,
    notBefore: since(),
    notAfter: later(AUTHORITY_DAYS),
    extensions: [
      new x509.BasicConstraintsExtension(true, 0, true),
      new x509.KeyUsagesExtension(x509.KeyUsageFlags.keyCertSign | x509.KeyUsageFlags.cRLSign, true),
      await x509.SubjectKeyIdentifierExtension.create(keys.publicKey),
      constraints(names),
    ],
  });
  return { cert: cert.toString('pem'), key: await toPem(keys.privateKey) };
}

/** Which of some names an authority may not sign for. One that was made without constraints may sign for all. */
export function mayNotSign(authority: string, names: string[]): string[] {
  const said = new x509.X509Certificate(authority).getExtension(id_ce_nameConstraints);
  if (!said) return [];
  const permitted = (AsnConvert.parse(said.value, NameConstraints).permittedSubtrees ?? []).map(({ base }) => base);
  const networks = new BlockList();
  for (const { iPAddress } of permitted) {
    if (iPAddress === undefined) continue;
    const [address, bits] = iPAddress.split('/');
    networks.addSubnet(address, Number(bits), isIP(address) === 4 ? 'ipv4' : 'ipv6');
  }
  const within = (name: string, of: string): boolean => name === of || name.endsWith(`.${of}`);
  return names.filter((name) =>
    isIP(name)
      ? !networks.check(name, isIP(name) === 4 ? 'ipv4' : 'ipv6')
      : !permitted.some(({ dNSName }) => dNSName !== undefined && within(name.toLowerCase(), dNSName.toLowerCase())),
  );
}

/** Makes a certificate for names and addresses, signed by an authority. */
export async function signFor(authority: Signed, names: string[]): Promise<Signed> {
  const [issuer, keys] = [new x509.X509Certificate(authority.cert), await newKeys()];
  const signingKey = await webcrypto.subtle.importKey('pkcs8', x509.PemConverter.decodeFirst(authority.key), ALGORITHM, false, ['sign']);
  const cert = await x509.X509CertificateGenerator.create({
    subject: SERVER,
    issuer: issuer.subject,
    publicKey: keys.publicKey,
    signingKey,
    signingAlgorithm: ALGORITHM,
    notBefore: since(),
    notAfter: later(DAYS),
    extensions: [
      new x509.BasicConstraintsExtension(false, undefined, true),
      new x509.KeyUsagesExtension(x509.KeyUsageFlags.digitalSignature, true),
      new x509.ExtendedKeyUsageExtension([x509.ExtendedKeyUsage.serverAuth]),
      new x509.SubjectAlternativeNameExtension(names.map((name) => ({ type: isIP(name) ? 'ip' : 'dns', value: name }))),
      await x509.AuthorityKeyIdentifierExtension.create(issuer),
    ],
  });
  return { cert: cert.toString('pem'), key: await toPem(keys.privateKey) };
}

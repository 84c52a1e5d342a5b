import { chmodSync, existsSync, readFileSync, writeFileSync } from 'node:fs';
import { X509Certificate, createPrivateKey } from 'node:crypto';
import { join } from 'node:path';
import { SetUpError } from '../cluster';
import { makeAuthority, mayNotSign, signFor } from './authority';

/** A certificate with its key, as PEM. */
export interface Certificate {
  cert: string;
  key: string;
  /** The authority that signed a self-made one, to be trusted by a phone; null for one from elsewhere. */
  authority: string | null;
}

/** By what an authority is told from one that somebody else made: to be compared before it is trusted. */
export const fingerprint = (authority: string): string => new X509Certificate(authority).fingerprint256;

const files = (dir: string) => ({
  cert: join(dir, 'certificate.pem'),
  key: join(dir, 'certificate-key.pem'),
  authority: join(dir, 'authority.pem'),
  authorityKey: join(dir, 'authority-key.pem'),
});

function keep(file: string, text: string, secret: boolean): void {
  writeFileSync(file, text, { mode: secret ? 0o600 : 0o644 });
  if (secret) chmodSync(file, 0o600);
}

/**
 * Makes a certificate for names and addresses, signed by an authority of this installation; the authority stays the same,
 * so that a phone that trusts it trusts the next certificate too. It may sign for private names and addresses and for
 * those that it was made with, for no others.
 * @param asked what it has to hold @param own what this machine is called besides: left out where it may not be signed for
 * @returns the authority, as PEM, and what was signed for @throws SetUpError when a name that was asked for may not be signed for
 */
export async function makeCertificate(dir: string, asked: string[], own: string[]): Promise<{ authority: string; names: string[] }> {
  const at = files(dir);
  const all = [...new Set([...asked, ...own])];
  if (!existsSync(at.authority) || !existsSync(at.authorityKey)) {
    const made = await makeAuthority(all);
    keep(at.authority, made.cert, false);
    keep(at.authorityKey, made.key, true);
  }
  const authority = { cert: readFileSync(at.authority, 'utf8'), key: readFileSync(at.authorityKey, 'utf8') };
  const foreign = mayNotSign(authority.cert, all);
  const refused = asked.filter((name) => foreign.includes(name));
  if (refused.length)
    throw new SetUpError(
      `this installation's authority was made for other names: it may not sign for ${refused.join(', ')}. Remove ${at.authority} and make the certificate again; each phone then has to trust the new authority`,
    );
  const names = all.filter((name) => !foreign.includes(name));
  const made = await signFor(authority, names);
  keep(at.cert, made.cert, false);
  keep(at.key, made.key, true);
  return { authority: authority.cert, names };
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

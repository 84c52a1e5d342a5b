import { isIPv6 } from 'node:net';
import { hostname, networkInterfaces } from 'node:os';

/** This machine's addresses on its networks, those of a local network first; without loopback and link-local ones. */
export function ownAddresses(): string[] {
  const all = Object.values(networkInterfaces())
    .flat()
    .filter((a) => a !== undefined && !a.internal && !a.address.startsWith('fe80'))
    .map((a) => a!.address);
  return [...all.filter((a) => !isIPv6(a)), ...all.filter(isIPv6)];
}

/** Names that this machine may be called by: in a certificate, and in a request's Host. */
export function ownNames(): string[] {
  const name = hostname().toLowerCase();
  return [...ownAddresses(), name, ...(name.includes('.') ? [] : [`${name}.local`]), 'localhost', '127.0.0.1', '::1'];
}

/** Whether an address means all of this machine's. */
export const isEverywhere = (address: string): boolean => address === '0.0.0.0' || address === '::';

/** A name or address as it stands in an address line. */
export const inUrl = (name: string): string => (isIPv6(name) ? `[${name}]` : name);

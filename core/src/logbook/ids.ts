/**
 * A time-ordered UUID (version 7, RFC 9562): ids sort by when they were made, so a mark has its identity
 * before any server sees it.
 * @param random 16 random bytes; by default from the platform's generator
 */
export function newId(now: number = Date.now(), random: Uint8Array = randomBytes()): string {
  const bytes = Uint8Array.from(random);
  for (let i = 0; i < 6; i++) bytes[i] = Math.floor(now / 2 ** (8 * (5 - i))) & 255;
  bytes[6] = (bytes[6] & 0x0f) | 0x70;
  bytes[8] = (bytes[8] & 0x3f) | 0x80;
  const hex = Array.from(bytes, (b) => b.toString(16).padStart(2, '0')).join('');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`;
}

declare const crypto: { getRandomValues(into: Uint8Array): Uint8Array };
const randomBytes = (): Uint8Array => crypto.getRandomValues(new Uint8Array(16));

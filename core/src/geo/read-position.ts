import type { LatLon } from './sphere';

/** Degrees, minutes and seconds as numbers; null where they cannot be. Minutes and seconds stay below sixty, and what they divide is whole. */
function degrees(parts: string[]): number | null {
  const [whole, minutes, seconds] = parts.map(Number);
  if (parts.slice(1).some((part) => /^[+-]/.test(part) || Number(part) >= 60)) return null;
  if (parts.slice(0, -1).some((part) => part.includes('.'))) return null;
  return Math.abs(whole) + (minutes ?? 0) / 60 + (seconds ?? 0) / 3600;
}

/**
 * Reads a position as people and their units write it: decimal degrees ("48.1853, -34.6127"), degrees and minutes
 * ("48°11.118′N 34°36.762′W", "N48 11.118 W34 36.762") or degrees, minutes and seconds; latitude first, unless letters
 * say otherwise. A comma parts the two numbers and is never a decimal point.
 * @returns null where it is no position, or where sign and letter contradict each other
 */
export function readPosition(text: string): LatLon | null {
  const plain = text.trim().toUpperCase().replaceAll('−', '-');
  if (/[^-+.\d°'′’"″”,;\sNSEW]/.test(plain) || (plain.match(/[,;]/g) ?? []).length > 1) return null;
  const tokens = [...plain.matchAll(/[-+]?\d+(?:\.\d+)?|[NSEW]|[,;]|[-+.]/g)].map(([token]) => token);
  const numbers = tokens.filter((t) => /\d/.test(t));
  const letters = tokens.filter((t) => /[NSEW]/.test(t));
  if (tokens.some((t) => /^[-+.]$/.test(t)) || ![2, 4, 6].includes(numbers.length)) return null;
  const half = numbers.length / 2;
  // What parts them stands in the middle.
  const parted = tokens.findIndex((t) => /[,;]/.test(t));
  if (parted >= 0 && tokens.slice(0, parted).filter((t) => /\d/.test(t)).length !== half) return null;
  const longitudeFirst = /[EW]/.test(letters[0] ?? '');
  if (letters.length) {
    if (!/^([NS][EW]|[EW][NS])$/.test(letters.join(''))) return null;
    // Before both or behind both.
    const leading = /[NSEW]/.test(tokens[0]);
    const places = tokens.filter((t) => !/[,;]/.test(t)).map((t) => /[NSEW]/.test(t));
    if (places.findIndex((is) => is) !== (leading ? 0 : half) || !(leading ? places[half + 1] : places.at(-1))) return null;
    if (numbers.some((n) => /^[-+]/.test(n))) return null;
  }
  const [first, second] = [numbers.slice(0, half), numbers.slice(half)].map((parts, k) => {
    const value = degrees(parts);
    return value === null ? NaN : /[SW]/.test(letters[k] ?? '') || parts[0].startsWith('-') ? -value : value;
  });
  const [latitude, longitude] = longitudeFirst ? [second, first] : [first, second];
  return Math.abs(latitude) <= 90 && Math.abs(longitude) <= 180 ? { latitude, longitude } : null;
}

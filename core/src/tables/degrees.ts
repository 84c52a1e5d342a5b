const DMS =
  /^([NSEWO])?\s*([+-]?\d{1,3}(?:[.,]\d+)?)\s*(?:°|º|d|deg|\s)?\s*(?:(\d{1,2}(?:[.,]\d+)?)\s*(?:'|′|’|m|min|\s)?\s*)?(?:(\d{1,2}(?:[.,]\d+)?)\s*(?:"|″|”|''|s|sec)?\s*)?([NSEWO])?$/i;

/**
 * A latitude or longitude as people write it: decimal degrees with a point or a comma, degrees and minutes, degrees,
 * minutes and seconds, with a letter or a sign. NaN when it is none.
 */
export function readDegrees(text: string, axis: 'latitude' | 'longitude'): number {
  const plain = Number(text);
  const most = axis === 'latitude' ? 90 : 180;
  if (text.trim() !== '' && !Number.isNaN(plain)) return Math.abs(plain) <= most ? plain : NaN;
  const m = DMS.exec(text.trim());
  if (!m) return NaN;
  const letter = (m[1] ?? m[5] ?? '').toUpperCase();
  const number = (part: string | undefined): number => (part === undefined ? 0 : Number(part.replace(',', '.')));
  const [degrees, minutes, seconds] = [number(m[2]), number(m[3]), number(m[4])];
  if (minutes >= 60 || seconds >= 60) return NaN;
  // East is O in several languages.
  if (letter && (axis === 'latitude') !== /[NS]/.test(letter)) return NaN;
  const size = Math.abs(degrees) + minutes / 60 + seconds / 3600;
  const negative = /[SW]/.test(letter) || degrees < 0 || Object.is(degrees, -0);
  return size <= most ? (negative ? -size : size) : NaN;
}

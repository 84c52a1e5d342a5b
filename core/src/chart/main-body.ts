/** Squares by which soundings hang together, degrees: about 5 km. */
const SQUARE = 0.05;

/**
 * Which soundings belong to one water: those of the largest body that hangs together, square by square. A log that
 * strayed in from elsewhere, or a fix of zeros, is none of it.
 * @param within west, south, east and north of the water, degrees, where its outline is known: then those near it
 * @returns 1 for those that belong
 */
export function mainBody(
  latitude: ArrayLike<number>,
  longitude: ArrayLike<number>,
  within: [west: number, south: number, east: number, north: number] | null = null,
): Uint8Array {
  const n = latitude.length;
  const belongs = new Uint8Array(n);
  if (within) {
    const [west, south, east, north] = within;
    for (let i = 0; i < n; i++)
      if (longitude[i] > west - SQUARE && longitude[i] < east + SQUARE && latitude[i] > south - SQUARE && latitude[i] < north + SQUARE)
        belongs[i] = 1;
    return belongs;
  }
  const keyOf = (i: number): number => Math.floor(latitude[i] / SQUARE) * 16384 + Math.floor(longitude[i] / SQUARE);
  const counts = new Map<number, number>();
  for (let i = 0; i < n; i++) counts.set(keyOf(i), (counts.get(keyOf(i)) ?? 0) + 1);
  const bodyOf = new Map<number, number>();
  let [best, most] = [-1, 0];
  for (const start of counts.keys()) {
    if (bodyOf.has(start)) continue;
    let sum = 0;
    const open = [start];
    bodyOf.set(start, start);
    for (let key = open.pop(); key !== undefined; key = open.pop()) {
      sum += counts.get(key)!;
      for (const dy of [-16384, 0, 16384])
        for (const dx of [-1, 0, 1])
          if (counts.has(key + dy + dx) && !bodyOf.has(key + dy + dx)) {
            bodyOf.set(key + dy + dx, start);
            open.push(key + dy + dx);
          }
    }
    if (sum > most) [best, most] = [start, sum];
  }
  for (let i = 0; i < n; i++) if (bodyOf.get(keyOf(i)) === best) belongs[i] = 1;
  return belongs;
}

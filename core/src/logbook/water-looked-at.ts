import { unionArea, type Patch } from '../geo';

/** Side of the squares that the union is measured in, m. */
const TILE = 100;

/** Area of the water that patches cover, m², each place once. @param patches as `scanSwaths` gives them */
export function areaLookedAt(patches: Patch[]): number {
  const tiles = new Map<string, Patch[]>();
  for (const p of patches)
    for (let i = Math.floor(p.minX / TILE); i <= p.maxX / TILE; i++)
      for (let j = Math.floor(p.minY / TILE); j <= p.maxY / TILE; j++) {
        const key = `${i} ${j}`;
        if (tiles.has(key)) tiles.get(key)!.push(p);
        else tiles.set(key, [p]);
      }
  let area = 0;
  for (const [key, list] of tiles) {
    const [i, j] = key.split(' ').map(Number);
    area += unionArea(list, [i * TILE, j * TILE, (i + 1) * TILE, (j + 1) * TILE]);
  }
  return area;
}

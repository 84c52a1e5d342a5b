import type { Raster } from '../../geo';
import type { WaterSort } from '../../lake';
import { findBlobs, scalesOf, type Blob } from './blobs';
import { findChannels } from './channels';
import { blur, fieldOf, gradientAt, ringArea, valueAt, type Field } from './field';
import { findFlats } from './flats';
import { findHardEdges } from './hard-edges';
import { findLedges } from './ledges';
import { findNoses } from './noses';
import { findSaddles } from './saddles';
import { confidenceOf, type ChartFeature, type FeatureKind } from './types';

/** Scales at which humps and holes are looked for, m. */
const SIGMAS = [9, 13, 19, 27, 38, 54];
/** A hump is named from this height on; a broad one has to be higher. */
const leastHump = (radius: number): number => Math.max(0.4, 0.013 * radius);
const LEAST_HARD = 0.15;

/** Finds the shapes of a chart that hold fish. @param field the depth, m below datum @param hardness 0–1, NaN where not known */
export function findFeatures(
  field: Field,
  hardness: Raster,
  onProgress?: (share: number) => void,
  sort: WaterSort = 'lake',
): ChartFeature[] {
  const sigmas = SIGMAS.filter((s) => s >= 1.4 * field.size);
  // Soundings so far apart tell no shape of this size.
  if (!sigmas.length) return [];
  const scales = scalesOf(field, sigmas);
  onProgress?.(0.2);
  const at = (sigma: number): Field => scales[nearest(sigmas, sigma)];
  const found: ChartFeature[] = [];
  const blobs = findBlobs(field, scales, { sigmas, min: (r) => Math.max(0.22, 0.55 * leastHump(r)) });
  for (const [list, name] of [
    [blobs.rises, 'hump'],
    [blobs.hollows, 'hole'],
  ] as const)
    for (const blob of list) {
      const high = blob.rise >= leastHump(blob.radius);
      // Small ones are worth a name where all else is flat.
      const kind: FeatureKind | null = high ? name : blob.radius < 30 && flatAround(at(38), blob) ? 'irregularity' : null;
      if (kind) found.push(blobFeature(kind, blob, field, high ? leastHump(blob.radius) : 0.22));
    }
  onProgress?.(0.5);
  const humps = found.filter((f) => f.kind === 'hump');
  const channels = findChannels(field, at(19), sigmas[nearest(sigmas, 19)]);
  found.push(...channels);
  // A deeper stretch of a channel is the channel.
  for (let n = found.length - 1; n >= 0; n--) {
    const hole = found[n];
    if (hole.kind === 'hole' && channels.some((c) => hole.rise < 1.6 * c.rise && nearLine(c, hole.x, hole.y, 35))) found.splice(n, 1);
  }
  onProgress?.(0.6);
  // The flank of a hump and the wall of a channel have their name already.
  found.push(
    ...findLedges(field, at(9)).filter(
      (ledge) =>
        sharedWith(ledge, (x, y) => humps.some((h) => Math.hypot(h.x - x, h.y - y) < 0.85 * h.size)) < 0.5 &&
        sharedWith(ledge, (x, y) => channels.some((c) => nearLine(c, x, y, 25))) < 0.6,
    ),
  );
  onProgress?.(0.7);
  // A shallower stretch of a channel lies between its walls, not between two heights.
  found.push(
    ...findSaddles(field, at(13), sigmas[nearest(sigmas, 13)], humps).filter(
      (s) => !channels.some((c) => s.rise < 1.2 * c.rise && nearLine(c, s.x, s.y, 35)),
    ),
  );
  // The nose of a hump is part of the hump.
  found.push(...findNoses(field, at(27)).filter((n) => humps.every((h) => Math.hypot(h.x - n.x, h.y - n.y) > h.size)));
  found.push(...findFlats(field, at(27)));
  onProgress?.(0.8);
  if (hardness.data.some((v) => !Number.isNaN(v))) {
    const hard = fieldOf(hardness);
    // Soundings of hardness scatter; what the sounder says of a spot is a mean over it.
    const soft = blur({ ...hard, data: hard.data.map((v) => -v) }, Math.max(field.size, 6));
    const own = SIGMAS.filter((s) => s >= 13 && s <= 40);
    for (const blob of findBlobs(soft, scalesOf(soft, own), { sigmas: own, min: () => LEAST_HARD }).rises)
      found.push({ ...blobFeature('hard spot', blob, field, LEAST_HARD), depth: valueAt(field, blob.x, blob.y) });
    found.push(...findHardEdges(hard, blur(hard, 8), field));
  }
  onProgress?.(1);
  return sort === 'coast' ? found.map((f) => ({ ...f, kind: coastalKind(f, hardness) })) : found;
}

/** A bottom as hard as this makes a rise a reef, else it is a bank. */
const HARD_RISE = 0.5;

/** What a shape is called on the coast. */
function coastalKind({ kind, x, y }: ChartFeature, hardness: Raster): FeatureKind {
  if (kind === 'hump') return hardness.at(x, y) >= HARD_RISE ? 'reef' : 'bank';
  if (kind === 'ledge') return 'drop-off';
  return kind === 'channel' ? 'gully' : kind;
}

/** Share of a line's points for which something holds. */
function sharedWith({ edge }: ChartFeature, holds: (x: number, y: number) => boolean): number {
  const points = edge.type === 'line' ? edge.points : edge.ring;
  return points.filter(([x, y]) => holds(x, y)).length / Math.max(1, points.length);
}

const nearLine = ({ edge }: ChartFeature, x: number, y: number, reach: number): boolean =>
  edge.type === 'line' && edge.points.some((p) => Math.hypot(p[0] - x, p[1] - y) < reach);

const nearest = (sigmas: number[], wanted: number): number =>
  sigmas.reduce((best, s, n) => (Math.abs(s - wanted) < Math.abs(sigmas[best] - wanted) ? n : best), 0);

function flatAround(wide: Field, blob: Blob): boolean {
  const k = Math.floor((blob.y - wide.y0) / wide.size) * wide.width + Math.floor((blob.x - wide.x0) / wide.size);
  return Math.hypot(...gradientAt(wide, k, 1)) < 0.015;
}

function blobFeature(kind: FeatureKind, blob: Blob, field: Field, min: number): ChartFeature {
  return {
    kind,
    x: blob.x,
    y: blob.y,
    depth: valueAt(field, blob.x, blob.y),
    rise: blob.rise,
    // As it is drawn: a circle as large as what lies inside its line at half height.
    size: 2 * Math.sqrt(ringArea(blob.ring) / Math.PI),
    sharpness: blob.sharpness,
    confidence: confidenceOf(blob.rise, min, 1),
    edge: { type: 'area', ring: blob.ring },
  };
}

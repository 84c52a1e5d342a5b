import { lineLength, type Point } from '../../geo';
import { centreOf, type Field } from './field';

/** Cells that form a line, and whether each is strong enough to begin one. */
export interface LineCells {
  /** 0 no, 1 carries a line on, 2 may begin one. */
  marks: Uint8Array;
}

/** Joins marked cells that touch, over gaps of one cell, into lines that hold at least one strong cell, in order along their length. */
export function joinLines(field: Field, marks: Uint8Array, leastMetres: number): Point[][] {
  const { width } = field;
  const seen = new Uint8Array(marks.length);
  const lines: Point[][] = [];
  for (let start = 0; start < marks.length; start++) {
    if (marks[start] !== 2 || seen[start]) continue;
    const members: number[] = [start];
    seen[start] = 1;
    for (let head = 0; head < members.length; head++)
      for (const m of neighbours(members[head], width, marks.length))
        if (marks[m] && !seen[m]) {
          seen[m] = 1;
          members.push(m);
        }
    if (members.length * field.size < 0.6 * leastMetres) continue;
    const path = longestPath(members, width, marks.length);
    const points = smooth(path.map((k) => centreOf(field, k)));
    if (lineLength(points) >= leastMetres) lines.push(points);
  }
  return lines;
}

/** Cells within two steps. */
function* neighbours(k: number, width: number, n: number): Generator<number> {
  for (let dj = -2; dj <= 2; dj++)
    for (let di = -2; di <= 2; di++) {
      const m = k + dj * width + di;
      if ((di || dj) && m >= 0 && m < n && Math.abs((m % width) - (k % width)) <= 2) yield m;
    }
}

/** The longest way through touching cells: from any cell to the farthest, and from there to the farthest again. */
function longestPath(members: number[], width: number, n: number): number[] {
  const inside = new Set(members);
  const farthest = (from: number): { end: number; back: Map<number, number> } => {
    const back = new Map<number, number>([[from, -1]]);
    // By distance: steps differ in length.
    const reach = new Map<number, number>([[from, 0]]);
    let queue = [from];
    let end = from;
    while (queue.length) {
      const next: number[] = [];
      for (const k of queue)
        for (const m of neighbours(k, width, n)) {
          if (!inside.has(m)) continue;
          const d = reach.get(k)! + Math.hypot((m % width) - (k % width), Math.floor(m / width) - Math.floor(k / width));
          if (d < (reach.get(m) ?? Infinity) - 1e-9) {
            reach.set(m, d);
            back.set(m, k);
            next.push(m);
          }
        }
      queue = next;
    }
    for (const [k, d] of reach) if (d > reach.get(end)!) end = k;
    return { end, back };
  };
  const { end: one } = farthest(members[0]);
  const { end: other, back } = farthest(one);
  const path: number[] = [];
  for (let k = other; k !== -1; k = back.get(k)!) path.push(k);
  return path;
}

/** Takes the steps of the grid out of a line, leaving its ends. */
function smooth(points: Point[]): Point[] {
  let line = points;
  for (let pass = 0; pass < 4; pass++)
    line = line.map((p, i) =>
      i === 0 || i === line.length - 1
        ? p
        : [(line[i - 1][0] + 2 * p[0] + line[i + 1][0]) / 4, (line[i - 1][1] + 2 * p[1] + line[i + 1][1]) / 4],
    );
  return line;
}

/** Points along a line every `step` metres. */
export function resample(points: Point[], step: number): Point[] {
  const out: Point[] = [points[0]];
  let left = step;
  for (let i = 1; i < points.length; i++) {
    let [ax, ay] = points[i - 1];
    const [bx, by] = points[i];
    let length = Math.hypot(bx - ax, by - ay);
    while (length >= left) {
      ax += ((bx - ax) * left) / length;
      ay += ((by - ay) * left) / length;
      out.push([ax, ay]);
      length = Math.hypot(bx - ax, by - ay);
      left = step;
    }
    left -= length;
  }
  return out;
}

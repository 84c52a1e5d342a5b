import type { Point } from '../geo';

/** A pattern of parallel lines run to and fro, as one searches a piece of water. */
export interface SPass {
  /** First end of the first line, m. */
  start: Point;
  /** Direction of the first line, degrees clockwise from grid north. */
  heading: number;
  /** Length of a line, and distance from one to the next (to starboard), m. */
  length: number;
  spacing: number;
}

/**
 * Where one is on an S-pass after so many metres.
 * @returns the place, m, and the course there, degrees clockwise from grid north
 */
export function sPass({ start, heading, length, spacing }: SPass, travelled: number): { at: Point; course: number } {
  const round = length + spacing;
  const line = Math.floor(travelled / round);
  const along = travelled - line * round;
  const there = line % 2 === 0;
  const crossing = along > length;
  const ahead = there ? Math.min(along, length) : length - Math.min(along, length);
  const aside = line * spacing + (crossing ? along - length : 0);
  const angle = (heading * Math.PI) / 180;
  const [sin, cos] = [Math.sin(angle), Math.cos(angle)];
  return {
    at: [start[0] + ahead * sin + aside * cos, start[1] + ahead * cos - aside * sin],
    course: (heading + (crossing ? 90 : there ? 0 : 180)) % 360,
  };
}

import type { MetricPlane } from '../geo';
import type { Contact, Response, Stop, TrackFix } from './records';
import type { TripInPlane } from './looks';

/** Projects a trip's rows on to the water's metric plane, sorted by time. Contacts without a key go by their id, else by their place in the list. */
export function tripInPlane(
  plane: MetricPlane,
  rows: { track: TrackFix[]; stops: Stop[]; contacts: (Contact & { id?: string })[]; responses: Response[] },
): TripInPlane {
  return {
    fixes: rows.track
      .map((f) => {
        const [x, y] = plane.toMetric(f);
        return {
          at: Date.parse(f.time),
          x,
          y,
          mode: f.mode,
          view: f.view,
          depth: f.depth_m,
          heading: f.heading_deg,
          port: f.port_range_m,
          starboard: f.starboard_range_m,
          sectorAngle: f.sector_deg,
          sectorRange: f.sector_range_m,
        };
      })
      .sort((a, b) => a.at - b.at),
    stops: rows.stops.map((row) => {
      const [x, y] = plane.toMetric(row);
      return { x, y, from: Date.parse(row.start), to: Date.parse(row.end), row };
    }),
    sightings: rows.contacts
      .map((row, i) => {
        const [x, y] = plane.toMetric(row);
        return { id: row.contact ?? row.id ?? `#${i}`, at: Date.parse(row.time), x, y, row };
      })
      .sort((a, b) => a.at - b.at),
    responses: rows.responses.map((row) => ({ at: Date.parse(row.time), row })),
  };
}

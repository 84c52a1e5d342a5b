import type { VIEWS } from '@restless-shoal/core/logbook';
import { app as msg } from '../words';

/** A sonar view as it is set on the Deck: how far it sees. */
export interface ViewInUse {
  view: (typeof VIEWS)[number];
  /** To each side, or ahead, m. */
  range: number;
}

export const DECK_VIEWS: { view: ViewInUse['view']; label: string; ranges: number[] }[] = [
  { view: 'side-scan', label: msg('viewsInUse.sideScan'), ranges: [10, 15, 20, 25, 30, 40, 50] },
  { view: 'sounder', label: msg('viewsInUse.sounder'), ranges: [] },
  { view: 'down-beam', label: msg('viewsInUse.downBeam'), ranges: [] },
  { view: 'forward-facing', label: msg('viewsInUse.forward'), ranges: [10, 15, 20, 25, 30, 40] },
];

/** Opening angle of a forward-facing view, degrees. */
export const FORWARD_ANGLE = 20;

/** The columns of a track fix that say how far the boat saw. */
export function effortColumns({ view, range }: ViewInUse): {
  view: ViewInUse['view'];
  port_range_m: number | null;
  starboard_range_m: number | null;
  sector_deg: number | null;
  sector_range_m: number | null;
} {
  return {
    view,
    port_range_m: view === 'side-scan' ? range : null,
    starboard_range_m: view === 'side-scan' ? range : null,
    sector_deg: view === 'forward-facing' ? FORWARD_ANGLE : null,
    sector_range_m: view === 'forward-facing' ? range : null,
  };
}

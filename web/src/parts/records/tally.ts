import type { TripDetail } from '../../api/queries';

/** What a trip's log comes to. */
export interface Tally {
  /** Things seen: sightings of the same one count once. */
  targets: number;
  sightings: number;
  /** Places looked at without result, and places fished. */
  blanks: number;
  stops: number;
  landed: number;
  /** Stops without an outcome, marks without a view. */
  unsaid: number;
  unseen: number;
}

/** "1 stop", "3 stops". */
export const some = (n: number, one: string, many: string): string => `${n} ${n === 1 ? one : many}`;

/** A place that was looked at without result, not fished: a stop of no minutes. */
export const isBlank = (stop: { start: string; end: string; outcome: string | null }): boolean =>
  stop.outcome === 'nothing' && stop.start === stop.end;

export function tally(detail: TripDetail | null): Tally {
  const [contacts, all] = [detail?.contacts ?? [], detail?.stops ?? []];
  const keys = new Set(contacts.map((c) => c.contact ?? c.id));
  const blanks = all.filter(isBlank).length;
  return {
    targets: contacts.filter((c) => c.same_as == null || !keys.has(c.same_as)).length,
    sightings: contacts.length,
    blanks,
    stops: all.length - blanks,
    landed: (detail?.responses ?? []).filter((r) => r.response === 'landed').length,
    unsaid: all.filter((s) => s.outcome == null).length,
    unseen: contacts.filter((c) => c.view == null).length,
  };
}

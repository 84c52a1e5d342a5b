import { packTables, unpackTables, type PlainRow } from '../formats';
import { emptyRow, type Look, type SeenTarget } from '../logbook';
import type { LogContact, Logbook, LogResponse, LogStop, LogTrip } from './look-table';

// What of each record patterns are found from; words that nobody counts (notes, behaviour) do not travel.
const LOOK = ['trip', 'column', 'row', 'visit', 'kind', 'from', 'to', 'effort', 'area', 'view', 'reach', 'targets'] as const;
/** Areas, minutes and metres of a look are kept to the hundredth: nobody knows them better. */
const LOOK_STEPS = { effort: 100, area: 100, reach: 10, from: 1, to: 1 };
const TARGET = [
  'target',
  'kind',
  'species',
  'confidence',
  'confirmed',
  'size',
  'count',
  'top',
  'bottom',
  'at',
  'view',
  'off',
  'named',
  'stated',
  'alsoNamed',
  'form',
  'core',
] as const;
const CONTACT = [
  'trip_id',
  'contact',
  'same_as',
  'stop',
  'time',
  'latitude',
  'longitude',
  'kind',
  'view',
  'rig',
  'settings',
  'species',
  'confidence',
  'confirmed',
  'count',
  'size',
  'water_depth_m',
  'top_m',
  'bottom_m',
  'form',
  'density',
  'core',
  'hardness',
  'cover',
  'side_of_cover',
] as const;
const STOP = ['trip_id', 'stop', 'start', 'end', 'latitude', 'longitude', 'radius_m', 'rods', 'outcome', 'boats_near'] as const;
const RESPONSE = [
  'trip_id',
  'contact',
  'stop',
  'time',
  'response',
  'species',
  'length_m',
  'mass_kg',
  'fate',
  'depth_m',
  'lure',
  'lure_mass_g',
  'lure_colour',
  'presentation',
  'casts',
] as const;

/** Numbers in place of keys, in the order in which they are met. */
class Numbers {
  private readonly of = new Map<string, number>();
  /** @param trip within which the key stands */
  for(trip: string, key: string | null | undefined): number | null {
    if (key == null) return null;
    const whole = `${trip} ${key}`;
    let number = this.of.get(whole);
    if (number === undefined) this.of.set(whole, (number = this.of.size));
    return number;
  }
}

/**
 * The log of a water as patterns read it, in columns. Keys of marks and stops, half of all bytes and of no use here,
 * become numbers: that of a contact is its place among the contacts as they are given.
 */
export function packLogbook({ trips, contacts, stops, responses }: Logbook): Uint8Array {
  const [marks, places] = [new Numbers(), new Numbers()];
  const tripAt = new Map(trips.map((t, i): [string, number] => [t.id, i]));
  const ms = (time: string): number => Date.parse(time);
  const contactRows = contacts.map((c) => {
    const number = marks.for(c.trip_id, c.contact ?? c.id);
    return { ...c, number, contact: c.contact == null ? null : number };
  });
  const looks = trips.flatMap((trip, t) => trip.looks.map((look) => ({ look, trip: t, id: trip.id })));
  return packTables({
    trips: { columns: ['id', 'start', 'outside'], rows: trips },
    looks: {
      columns: LOOK,
      steps: LOOK_STEPS,
      rows: looks.map(({ look, trip }) => ({ ...look, trip, targets: look.targets.length })),
    },
    targets: {
      columns: TARGET,
      steps: { off: 100 },
      rows: looks.flatMap(({ look, id }) =>
        look.targets.map((t) => ({
          ...t,
          target: marks.for(id, t.target),
          alsoNamed: t.alsoNamed.length ? JSON.stringify(t.alsoNamed) : null,
        })),
      ),
    },
    contacts: {
      columns: ['number', ...CONTACT],
      rows: contactRows.map((c) => ({
        ...c,
        trip_id: tripAt.get(c.trip_id),
        time: ms(c.time),
        same_as: marks.for(c.trip_id, c.same_as),
        stop: places.for(c.trip_id, c.stop),
      })),
    },
    stops: {
      columns: STOP,
      rows: stops.map((s) => ({
        ...s,
        trip_id: tripAt.get(s.trip_id),
        stop: places.for(s.trip_id, s.stop),
        start: ms(s.start),
        end: ms(s.end),
      })),
    },
    responses: {
      columns: RESPONSE,
      rows: responses.map((r) => ({
        ...r,
        trip_id: tripAt.get(r.trip_id),
        contact: marks.for(r.trip_id, r.contact),
        stop: places.for(r.trip_id, r.stop),
        time: ms(r.time),
      })),
    },
  });
}

const text = (n: unknown): string | null => (n == null ? null : String(n));
const iso = (n: unknown): string => new Date(Number(n)).toISOString();

/** Reads what `packLogbook` wrote. @throws RangeError when it is something else or cut short */
export function unpackLogbook(bytes: Uint8Array): Logbook {
  const tables = unpackTables(bytes);
  const trips = tables.trips.map((t): LogTrip => ({ id: String(t.id), start: Number(t.start), outside: Number(t.outside), looks: [] }));
  const tripOf = (row: PlainRow): string => trips[Number(row.trip_id)].id;
  let next = 0;
  for (const row of tables.looks) {
    const own = tables.targets.slice(next, (next += Number(row.targets)));
    for (const target of own) {
      target.target = String(target.target);
      (target as unknown as SeenTarget).alsoNamed = target.alsoNamed == null ? [] : (JSON.parse(String(target.alsoNamed)) as string[]);
    }
    const look = row as unknown as Look;
    look.targets = own as unknown as SeenTarget[];
    trips[Number(row.trip)].looks.push(look);
  }
  const [noContact, noStop, noResponse] = [emptyRow('contacts'), emptyRow('stops'), emptyRow('responses')];
  return {
    trips,
    contacts: tables.contacts.map(
      (row) =>
        ({
          ...noContact,
          ...row,
          id: String(row.number),
          trip_id: tripOf(row),
          contact: text(row.contact),
          same_as: text(row.same_as),
          stop: text(row.stop),
          time: iso(row.time),
        }) as unknown as LogContact,
    ),
    stops: tables.stops.map(
      (row) =>
        ({
          ...noStop,
          ...row,
          id: text(row.stop)!,
          trip_id: tripOf(row),
          stop: text(row.stop),
          start: iso(row.start),
          end: iso(row.end),
        }) as unknown as LogStop,
    ),
    responses: tables.responses.map(
      (row, i) =>
        ({
          ...noResponse,
          ...row,
          id: String(i),
          trip_id: tripOf(row),
          contact: text(row.contact),
          stop: text(row.stop),
          time: iso(row.time),
        }) as unknown as LogResponse,
    ),
  };
}

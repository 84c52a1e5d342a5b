import { useState } from 'react';
import { bagOf, type BagFish } from '@restless-shoal/core/logbook';
import type { SpeciesProfile } from '@restless-shoal/core/species';
import type { StoredResponse, TripRow } from '../../api/queries';
import { capital, formatFishLength, formatMass, parts as msg, term } from '../../words';
import { clockInZone, fromLocalInput, toLocalInput } from '../format';
import { fishUnit, inFishUnit, readFish } from '../fish-units';
import { readNumber } from '../read-number';

/** So many fish count where nobody said otherwise. */
const USUAL = 5;
export type BagOfTrip = ReturnType<typeof bagOfTrip>;

/** The bag of a tournament's trip. */
export const bagOfTrip = (trip: TripRow, responses: readonly StoredResponse[], species: SpeciesProfile[]) => {
  const rules = { fish: trip.bag ?? USUAL, leastLength: trip.least_length_m ?? null };
  return { rules, ...bagOf(responses, rules, species) };
};

/** A mass, and whether it was worked out from a length. */
const massWords = (kg: number, estimated: boolean): string => (estimated ? msg('bag.about', { mass: formatMass(kg) }) : formatMass(kg));

/** How long until the fish have to be on the scale, or how long ago that was. @param left ms */
export function untilWords(left: number): string {
  const minutes = Math.floor(Math.abs(left) / 60_000);
  return msg(left >= 0 ? 'bag.weighInIn' : 'bag.weighInPast', { hours: Math.floor(minutes / 60), minutes: minutes % 60 });
}

function Fish({ fish, zone }: { fish: BagFish<StoredResponse>; zone: string | null }) {
  const { response: r, mass, estimated } = fish;
  return (
    <li className="num flex justify-between gap-3 border-b border-line py-1.5">
      <span>
        <span className="text-mute">{clockInZone(new Date(r.time), zone)}</span> {r.species ? capital(term(r.species)) : msg('bag.fish')}
        {r.length_m !== null && ` · ${formatFishLength(r.length_m)}`}
      </span>
      <span className="whitespace-nowrap">{mass === null ? '–' : massWords(mass, estimated)}</span>
    </li>
  );
}

/** The best fish of a tournament, what may go back, and the rules, which can be changed. */
export function Bag({
  trip,
  responses,
  species,
  zone,
  onRules,
}: {
  trip: TripRow;
  responses: readonly StoredResponse[];
  species: SpeciesProfile[];
  zone: string | null;
  onRules: (rules: Pick<TripRow, 'bag' | 'least_length_m' | 'weigh_in'>) => void;
}) {
  const { rules, counted, culled, short, unmeasured, total, toBeat } = bagOfTrip(trip, responses, species);
  const [fish, setFish] = useState(String(rules.fish));
  const [least, setLeast] = useState(rules.leastLength === null ? '' : inFishUnit('length', rules.leastLength));
  const [weighIn, setWeighIn] = useState(trip.weigh_in ? toLocalInput(new Date(trip.weigh_in), zone) : '');
  const [wrong, setWrong] = useState<string | null>(null);
  const save = (): void => {
    const [count, length] = [readNumber(fish), readFish('length', least)];
    const moment = weighIn === '' ? null : fromLocalInput(weighIn, zone);
    if (!(Number.isInteger(count) && count >= 1 && count <= 100)) return setWrong(msg('bag.aWholeNumber'));
    if (length !== null && !(length > 0 && length <= 12)) return setWrong(msg('bag.lengthWrong'));
    if (weighIn !== '' && !moment) return setWrong(msg('bag.timeWrong'));
    setWrong(null);
    onRules({ bag: count, least_length_m: length, weigh_in: moment?.toISOString() ?? null });
  };
  const list = (title: string, fishes: BagFish<StoredResponse>[]) =>
    fishes.length > 0 && (
      <>
        <h3 className="mt-3 font-semibold">{title}</h3>
        <ul aria-label={title}>
          {fishes.map((f) => (
            <Fish key={f.response.id} fish={f} zone={zone} />
          ))}
        </ul>
      </>
    );
  const row = 'grid grid-cols-[8rem_minmax(0,1fr)] items-center gap-3 py-1';
  return (
    <div>
      <p className="num text-lg">
        <b>
          {msg('bag.counts', {
            n: counted.length,
            of: rules.fish,
            total: massWords(
              total,
              counted.some((f) => f.estimated),
            ),
          })}
        </b>
      </p>
      <p className="num">
        {toBeat === null ? msg('bag.room', { n: rules.fish - counted.length }) : msg('bag.toBeat', { mass: formatMass(toBeat) })}
        {trip.weigh_in && ` ${untilWords(Date.parse(trip.weigh_in) - Date.now())}`}
      </p>
      {list(msg('bag.counted'), counted)}
      {list(msg('bag.culled'), culled)}
      {list(msg('bag.short'), short)}
      {list(msg('bag.unmeasured'), unmeasured)}
      {[...counted, ...culled].some((f) => f.estimated) && <p className="mt-1 text-sm text-mute">{msg('bag.byLength')}</p>}
      <form
        className="mt-3 border-t border-line pt-2"
        onSubmit={(event) => {
          event.preventDefault();
          save();
        }}
      >
        <label className={row}>
          <span className="text-mute">{msg('bag.fishThatCount')}</span>
          <input className="input num h-11 w-full" inputMode="numeric" value={fish} onChange={(e) => setFish(e.target.value)} />
        </label>
        <label className={row}>
          <span className="text-mute">{msg('bag.leastLength', { unit: fishUnit('length') })}</span>
          <input className="input num h-11 w-full" inputMode="decimal" value={least} onChange={(e) => setLeast(e.target.value)} />
        </label>
        <label className={row}>
          <span className="text-mute">{msg('bag.weighIn')}</span>
          <input type="datetime-local" className="input num h-11 w-full" value={weighIn} onChange={(e) => setWeighIn(e.target.value)} />
        </label>
        {wrong && (
          <p role="alert" className="text-warn">
            {wrong}
          </p>
        )}
        <button type="submit" className="btn mt-2 h-12 w-full">
          {msg('bag.saveRules')}
        </button>
      </form>
    </div>
  );
}

import type { SpeciesProfile } from '@restless-shoal/core/species';
import type { TripDetail } from '../../api/queries';
import { clockInZone, depthText } from '../../parts/format';
import { PhotoImage, photosOfFish } from '../../parts/photos';
import { capital, formatFishLength, formatMass, logbook as msg, term } from '../../words';
import { longerThan } from './oddities';

/** What fish did on a trip, in order of time: each opens. */
export function Catch({
  detail,
  species,
  zone,
  onOpen,
}: {
  detail: TripDetail;
  species: SpeciesProfile[];
  zone: string | null;
  onOpen: (id: string) => void;
}) {
  const odd = (r: TripDetail['responses'][number]): string | null => {
    const largest = longerThan(r, species);
    return largest === null ? null : msg('catch.longer', { species: term(r.species!), largest: formatFishLength(largest) });
  };
  const { responses } = detail;
  if (!responses.length) return <p className="text-mute">{msg('catch.noFish')}</p>;
  return (
    <ul className="grid gap-x-4 sm:grid-cols-2 lg:grid-cols-1 xl:grid-cols-2">
      {[...responses]
        .sort((a, b) => a.time.localeCompare(b.time))
        .map((r) => (
          <li key={r.id}>
            <button
              type="button"
              className="flex min-h-11 w-full items-center gap-3 rounded px-1 py-1 text-left hover:bg-surface"
              onClick={() => onOpen(r.id)}
            >
              <span className="num w-14 shrink-0 text-mute">{clockInZone(new Date(r.time), zone)}</span>
              <span className="num min-w-0">
                <b>{capital(term(r.response))}</b>
                {[
                  r.species && term(r.species),
                  r.length_m !== null && formatFishLength(r.length_m),
                  r.mass_kg !== null && formatMass(r.mass_kg),
                  r.depth_m !== null && depthText(r.depth_m),
                  r.lure,
                  r.rod,
                  r.angler,
                ]
                  .filter(Boolean)
                  .map((words) => (
                    <span key={String(words)}>
                      {' · '}
                      <span className="whitespace-nowrap">{words}</span>
                    </span>
                  ))}
                {odd(r) && <span className="block text-sm text-warn">{odd(r)}</span>}
              </span>
              {photosOfFish(detail, r)
                .slice(0, 1)
                .map((p) => (
                  <PhotoImage
                    key={p.id}
                    trip={detail.trip.id}
                    id={p.id}
                    words={p.caption ?? msg('catch.photo')}
                    small
                    className="ml-auto h-10 w-10 shrink-0 rounded object-cover"
                  />
                ))}
            </button>
          </li>
        ))}
    </ul>
  );
}

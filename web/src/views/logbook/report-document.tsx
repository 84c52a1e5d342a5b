import type { NamedArea, Point, Rings } from '@restless-shoal/core/geo';
import type { StoredResponse } from '../../api/queries';
import { clockInZone, compass, depthRange, inZone } from '../../parts/format';
import {
  capital,
  decimal,
  formatDepth,
  formatFishLength,
  formatMass,
  formatSpeed,
  formatTemperature,
  listed,
  logbook as msg,
  term,
} from '../../words';
import type { ReportFacts } from './report-facts';
import type { ReportPhoto } from './report-photos';

/** Where fish were landed, as far as it is told, in the plane of the shore, m. */
export type ReportPlaces = { shown: Point[]; cells: { from: Point; to: Point }[]; areas: NamedArea[] };

export interface Report {
  water: string;
  start: Date;
  end: Date | null;
  zone: string | null;
  crew: string | null;
  /** Whether anglers are named. */
  anglers: boolean;
  facts: ReportFacts;
  /** Words that were typed for it. */
  notes: string;
  next: string;
  /** The shore, m; null where it is not drawn. */
  shore: Rings | null;
  places: ReportPlaces;
  photos: ReportPhoto[];
}

/** So many lures and species are named. */
const NAMED = 4;

/** Looks of the page as it is printed and as it is sent: a file of its own has nothing else. */
export const REPORT_STYLE = `
.report { font-family: 'Atkinson Hyperlegible Next Variable', system-ui, sans-serif; color: #13222a; background: #fffdf6; max-width: 46rem; margin: 0 auto; padding: 2rem; line-height: 1.45; }
.report h1 { font-size: 1.9rem; line-height: 1.15; margin: 0; font-weight: 700; }
.report h2 { font-size: 1.15rem; margin: 1.6rem 0 .4rem; font-weight: 700; }
.report p { margin: .25rem 0; }
.report .day { font-size: 1.1rem; color: #45545b; }
.report table { border-collapse: collapse; width: 100%; font-variant-numeric: tabular-nums; }
.report th { text-align: left; font-weight: 600; border-bottom: 2px solid #13222a; padding: .3rem .6rem .3rem 0; }
.report td { border-bottom: 1px solid #cdcdbe; padding: .3rem .6rem .3rem 0; vertical-align: top; }
.report svg { width: 100%; max-height: 20rem; margin-top: .5rem; }
.report .photos { display: grid; grid-template-columns: repeat(auto-fill, minmax(15rem, 1fr)); gap: .8rem; margin: .8rem 0; }
.report figure { margin: 0; break-inside: avoid; }
.report img { width: 100%; max-height: 22rem; object-fit: cover; display: block; border-radius: 3px; }
.report figcaption { font-size: .95rem; padding-top: .2rem; }
.report .said { white-space: pre-line; }
@media print { .report { padding: 0; max-width: none; background: #fff; } .report h2, .report tr, .report svg { break-inside: avoid; } }
`;

function Shore({ shore, places }: { shore: Rings; places: ReportPlaces }) {
  const all = [...shore.flat(), ...places.cells.flatMap((c) => [c.from, c.to]), ...places.areas.flatMap((a) => a.rings.flat())];
  const [xs, ys] = [all.map((p) => p[0]), all.map((p) => p[1])];
  const [left, top] = [Math.min(...xs), Math.max(...ys)];
  const [width, height] = [Math.max(...xs) - left, top - Math.min(...ys)];
  const margin = 0.03 * Math.max(width, height);
  const path = shore.map((ring) => `M${ring.map(([x, y]) => `${(x - left).toFixed(0)} ${(top - y).toFixed(0)}`).join('L')}Z`).join('');
  const stroke = Math.max(width, height) / 400;
  return (
    <svg viewBox={`${-margin} ${-margin} ${width + 2 * margin} ${height + 2 * margin}`} role="img" aria-label={msg('report.whereFishWere')}>
      <path d={path} fill="#cfe3e6" fillRule="evenodd" stroke="#13222a" strokeWidth={stroke} />
      {places.cells.map((c, k) => (
        <rect
          key={k}
          x={c.from[0] - left}
          y={top - c.to[1]}
          width={c.to[0] - c.from[0]}
          height={c.to[1] - c.from[1]}
          fill="#cf3f14"
          fillOpacity={0.3}
          stroke="#cf3f14"
          strokeWidth={stroke}
        />
      ))}
      {places.areas.map((a) => (
        <path
          key={a.name}
          d={a.rings.map((ring) => `M${ring.map(([x, y]) => `${(x - left).toFixed(0)} ${(top - y).toFixed(0)}`).join('L')}Z`).join('')}
          fill="#cf3f14"
          fillOpacity={0.3}
          fillRule="evenodd"
          stroke="#cf3f14"
          strokeWidth={stroke}
        />
      ))}
      {places.shown.map(([x, y], k) => (
        <circle key={k} cx={x - left} cy={top - y} r={4 * stroke} fill="#cf3f14" stroke="#fffdf6" strokeWidth={stroke} />
      ))}
    </svg>
  );
}

const cellsIn = (zone: string | null) =>
  [
    ['time', (r) => clockInZone(new Date(r.time), zone)],
    ['fish', (r) => (r.species ? capital(term(r.species)) + (r.fate ? `, ${term(r.fate)}` : '') : null)],
    ['length', (r) => (r.length_m === null ? null : formatFishLength(r.length_m))],
    ['mass', (r) => (r.mass_kg === null ? null : formatMass(r.mass_kg))],
    ['depth', (r) => (r.depth_m === null ? null : formatDepth(r.depth_m))],
    ['lure', (r) => [r.lure, r.lure_colour].filter(Boolean).join(', ') || null],
    ['angler', (r) => r.angler],
  ] satisfies ['time' | 'fish' | 'length' | 'mass' | 'depth' | 'lure' | 'angler', (r: StoredResponse) => string | null][];

/** A trip on a page, for the client: the day, its conditions, the catch, what worked. */
export function ReportDocument({ report }: { report: Report }) {
  const { water, start, end, zone, crew, facts, notes, next, shore, places, photos, anglers } = report;
  const { landed, bites, lures, depths, seen, stops, minutes, surface, clarity, wind } = facts;
  const day = inZone(start, zone, { weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' });
  const conditions = [
    surface !== null && msg('report.surface', { surface: formatTemperature(surface) }),
    clarity !== null && msg('report.clarity', { clarity: formatDepth(clarity) }),
    wind && msg('report.wind', { from: wind.from === null ? '' : compass(wind.from), speed: formatSpeed(wind.speed) }),
  ].filter((words): words is string => Boolean(words));
  // What was said of no fish has no column.
  const columns = cellsIn(zone).filter(([column, words]) => (column !== 'angler' || anglers) && landed.some((r) => words(r) !== null));
  const best = lures.filter((l) => l.bites > 0).slice(0, NAMED);
  const named = seen.filter(([species]) => species).slice(0, NAMED);
  return (
    <article className="report">
      <h1>{water}</h1>
      <p className="day">
        {day}, {clockInZone(start, zone)}
        {end && `–${clockInZone(end, zone)}`}
        {crew && ` · ${crew}`}
      </p>
      {conditions.length > 0 && <p>{conditions.join(' · ')}</p>}
      {notes.trim() && <p className="said">{notes.trim()}</p>}
      <h2>{landed.length ? msg('report.landed', { n: landed.length }) : msg('report.nothingLanded')}</h2>
      {landed.length > 0 && (
        <table>
          <thead>
            <tr>
              {columns.map(([column]) => (
                <th key={column} scope="col">
                  {msg(`catch.${column}`)}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {landed.map((r) => (
              <tr key={r.id}>
                {columns.map(([column, words]) => (
                  <td key={column}>{words(r) ?? '–'}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {photos.length > 0 && (
        <div className="photos">
          {photos.map((p) => {
            const fish = landed.find((r) => p.responseTime !== null && Date.parse(r.time) === Date.parse(p.responseTime));
            const size = fish && [
              fish.length_m !== null && formatFishLength(fish.length_m),
              fish.mass_kg !== null && formatMass(fish.mass_kg),
            ];
            const words = [fish?.species && capital(term(fish.species)), ...(size || []), anglers && fish?.angler, p.caption]
              .filter(Boolean)
              .join(', ');
            return (
              <figure key={p.id}>
                <img src={p.source} alt={words || msg('report.photo')} />
                {words && <figcaption>{words}</figcaption>}
              </figure>
            );
          })}
        </div>
      )}
      <h2>{msg('report.whatWorked')}</h2>
      <p>
        {msg('report.bitesAtStops', { bites, stops, hours: decimal(minutes / 60, 1) })}
        {depths && ` ${msg('report.landedFrom', { depths: depthRange(...depths) })}`}
      </p>
      {best.length > 0 && (
        <p>
          {msg('report.lures', {
            lures: listed(best.map((l) => msg('report.lureBites', { lure: l.lure, bites: l.bites, landed: l.landed }))),
          })}
        </p>
      )}
      {named.length > 0 && <p>{msg('report.onTheScreen', { seen: listed(named.map(([species, n]) => `${n} ${term(species)}`)) })}</p>}
      {shore && (
        <>
          <h2>{msg('report.whereFishWere')}</h2>
          <Shore shore={shore} places={places} />
          {places.areas.length > 0 && <p className="day">{msg('report.landedIn', { areas: listed(places.areas.map((a) => a.name)) })}</p>}
          {places.cells.length > 0 && <p className="day">{msg('report.aFishWasLanded')}</p>}
        </>
      )}
      {next.trim() && (
        <>
          <h2>{msg('report.nextTime')}</h2>
          <p className="said">{next.trim()}</p>
        </>
      )}
    </article>
  );
}

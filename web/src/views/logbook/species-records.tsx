import { Link } from 'react-router';
import { useSpeciesRecords, type SpeciesRecord } from '../../api/queries';
import { dayInZone, grouped } from '../../parts/format';
import { capital, formatFishLength, formatMass, logbook as msg, term } from '../../words';

/** The largest of each species that were landed, each a way to its trip. */
export function SpeciesRecords({ zone }: { zone: string | null }) {
  const records = useSpeciesRecords().data ?? [];
  if (!records.length) return null;
  const cell = (best: SpeciesRecord['longest'] | SpeciesRecord['heaviest'], size: string) =>
    best && (
      <Link className="underline decoration-dotted underline-offset-4" to={`/logbook/${best.trip}`}>
        {size} · {dayInZone(new Date(best.time), zone)}
        {best.angler && ` · ${best.angler}`}
      </Link>
    );
  return (
    <section aria-label={msg('records.records')} className="mt-6">
      <h2 className="text-lg font-bold">{msg('records.records')}</h2>
      <table className="num w-full max-w-4xl">
        <thead>
          <tr className="border-b-2 border-line text-left">
            <th scope="col" className="py-1.5 pr-3">
              {msg('records.species')}
            </th>
            <th scope="col" className="py-1.5 pr-3 text-right">
              {msg('records.landed')}
            </th>
            <th scope="col" className="py-1.5 pr-3">
              {msg('records.longest')}
            </th>
            <th scope="col" className="py-1.5">
              {msg('records.heaviest')}
            </th>
          </tr>
        </thead>
        <tbody>
          {records.map((r) => (
            <tr key={r.species} className="border-b border-line">
              <th scope="row" className="py-1.5 pr-3 text-left font-medium">
                {capital(term(r.species))}
              </th>
              <td className="py-1.5 pr-3 text-right">{grouped(r.landed)}</td>
              <td className="py-1.5 pr-3">{cell(r.longest, r.longest ? formatFishLength(r.longest.length_m) : '') ?? '–'}</td>
              <td className="py-1.5">{cell(r.heaviest, r.heaviest ? formatMass(r.heaviest.mass_kg) : '') ?? '–'}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

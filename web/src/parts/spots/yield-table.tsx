import { decimal, logbook as msg } from '../../words';

interface YieldRow {
  name: string;
  stops: number;
  minutes: number;
  bites: number;
  landed: number;
}

/** Stops, hours, bites and fish under each of some conditions. */
export function YieldTable({ caption, of, rows }: { caption: string; of: string; rows: YieldRow[] }) {
  return (
    <table className="num mt-3 w-full table-fixed text-sm">
      <caption className="pb-1 text-left text-base font-semibold">{caption}</caption>
      <thead>
        <tr className="border-b border-line text-right">
          <th scope="col" className="w-2/5 py-1 text-left">
            {of}
          </th>
          {(['stops', 'hours', 'bites', 'landed'] as const).map((what) => (
            <th key={what} scope="col" className="py-1">
              {msg(`spotSheet.${what}`)}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(({ name, stops, minutes, bites, landed }) => (
          <tr key={name} className="border-b border-line text-right">
            <th scope="row" className="py-1 text-left font-medium">
              {name}
            </th>
            <td className="py-1">{stops}</td>
            <td className="py-1">{decimal(minutes / 60, 1)}</td>
            <td className="py-1">{bites}</td>
            <td className="py-1">{landed}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

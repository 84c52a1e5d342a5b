import type { Share } from '@restless-shoal/core/numbers';
import { grouped, percent } from '../../parts/format';
import { patterns as msg } from '../../words';

export interface ShareLine {
  words: string;
  share: Share;
  note?: string;
}

/** Shares with their intervals, a line each: the point, the interval as a bar, the number of trials. Too few are said to be. */
export function ShareLines({
  lines,
  min,
  what,
  mark,
}: {
  lines: ShareLine[];
  min: number;
  what: string;
  mark?: { at: number; words: string };
}) {
  return (
    <table className="w-full text-sm">
      <thead className="sr-only">
        <tr>
          <th>{msg('shareLines.what')}</th>
          <th>{msg('shareLines.shareAndInterval')}</th>
          <th>{what}</th>
        </tr>
      </thead>
      <tbody>
        {lines.map(({ words, share, note }) => (
          <tr key={words} className="border-t border-line first:border-t-0">
            <th scope="row" className="w-44 py-1 pr-3 text-left align-top font-medium">
              {words}
              {note && <span className="block text-xs font-normal text-mute">{note}</span>}
            </th>
            {share.n < min ? (
              <td className="py-1 text-mute" colSpan={2}>
                {share.n ? msg('shareLines.tooFew', { n: share.n, what }) : msg('shareLines.no', { what })}
              </td>
            ) : (
              <>
                <td className="py-1">
                  <span className="relative block h-6" title={msg('shareLines.to', { low: percent(share.low), high: percent(share.high) })}>
                    <span className="absolute inset-x-0 top-1/2 h-px bg-line" />
                    {mark && (
                      <span className="absolute inset-y-0 w-px bg-ink/50" style={{ left: `${100 * mark.at}%` }} title={mark.words} />
                    )}
                    <span
                      className="absolute top-1/2 h-2.5 -translate-y-1/2 rounded bg-fish/25"
                      style={{ left: `${100 * share.low}%`, width: `${100 * (share.high - share.low)}%` }}
                    />
                    <span
                      className="absolute top-1/2 size-3 -translate-x-1/2 -translate-y-1/2 rounded-full bg-fish"
                      style={{ left: `${100 * share.share}%` }}
                    />
                  </span>
                </td>
                <td className="num w-40 whitespace-nowrap py-1 pl-3 text-right">
                  <b>{percent(share.share)}</b>{' '}
                  <span className="text-mute">
                    {Math.round(100 * share.low)}–{Math.round(100 * share.high)} · n {grouped(share.n)}
                  </span>
                </td>
              </>
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

import { MODES, type TrackFix } from '@restless-shoal/core/logbook';
import { Dialog } from '../../parts/dialog';
import { clockInZone } from '../../parts/format';
import { deck as msg } from '../../words';

/** What the modes of a track are called. */
export const MODE_WORDS: Record<TrackFix['mode'], string> = {
  transit: msg('trackSheet.underWay'),
  scan: msg('trackSheet.looking'),
  sweep: msg('trackSheet.sweepingFromAStand'),
  fish: msg('trackSheet.fishing'),
  troll: msg('trackSheet.trolling'),
};

export interface Stretch {
  from: string;
  to: string;
  mode: TrackFix['mode'];
  view: string | null;
}

/** A gap longer than this ends a stretch, ms. */
const GAP = 120_000;

/** The track as stretches of one mode and view, the oldest first. @param fixes in order of time */
export function stretchesOf(fixes: Pick<TrackFix, 'time' | 'mode' | 'view'>[]): Stretch[] {
  const out: Stretch[] = [];
  for (const { time, mode, view } of fixes) {
    const last = out.at(-1);
    if (last && last.mode === mode && last.view === view && Date.parse(time) - Date.parse(last.to) <= GAP) last.to = time;
    else out.push({ from: time, to: time, mode, view });
  }
  return out;
}

/** What the boat was at, stretch by stretch, to be set right: it decides what counts as water looked at. */
export function TrackSheet({
  fixes,
  zone,
  onMode,
  onClose,
}: {
  fixes: TrackFix[];
  zone: string | null;
  onMode: (stretch: Stretch, mode: TrackFix['mode']) => void;
  onClose: () => void;
}) {
  const stretches = stretchesOf(fixes);
  return (
    <Dialog title={msg('trackSheet.theTrack')} onClose={onClose}>
      <p className="mb-2 text-sm text-mute">{msg('trackSheet.thisDecidesWhatCounts')}</p>
      {!stretches.length && <p>{msg('trackSheet.nothingHasBeenRecorded')}</p>}
      <ul className="flex flex-col gap-1">
        {stretches.map((s) => (
          <li key={s.from + s.mode} className="grid grid-cols-[7rem_1fr_11rem] items-center gap-2 max-md:grid-cols-[6.5rem_1fr]">
            <span className="num leading-tight">
              {clockInZone(new Date(s.from), zone)}–{clockInZone(new Date(s.to), zone)}
              <span className="block text-xs text-mute md:hidden">{s.view ?? ''}</span>
            </span>
            <span className="text-sm text-mute max-md:hidden">{s.view ?? ''}</span>
            <select
              aria-label={msg('trackSheet.whatTheBoatDid', { from: clockInZone(new Date(s.from), zone) })}
              className="select h-11 w-full"
              value={s.mode}
              onChange={(e) => onMode(s, e.target.value as TrackFix['mode'])}
            >
              {MODES.map((mode) => (
                <option key={mode} value={mode}>
                  {MODE_WORDS[mode]}
                </option>
              ))}
            </select>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}

import { Eye, EyeOff, Waypoints } from 'lucide-react';
import type { TrackMode } from '../../state/use-recorder';
import { DECK_VIEWS, type ViewInUse } from '../../state/views-in-use';
import { useUnits } from '../../state/units';
import { deck as msg, formatLength } from '../../words';

const HINTS: Record<TrackMode, string> = {
  scan: msg('viewChoice.sonarIsWatchedThe'),
  sweep: msg('viewChoice.theBoatIsStill'),
  transit: msg('viewChoice.underWayTheTrack'),
  troll: msg('viewChoice.linesAreOutTheir'),
  fish: msg('viewChoice.aStopIsBeing'),
};

/** The sonar view in use, how far it sees, and whether anybody watches it. */
export function ViewChoice({
  view,
  looking,
  mode,
  narrow,
  onView,
  onLooking,
  onTroll,
}: {
  view: ViewInUse;
  looking: boolean;
  /** What the track is recorded as. */
  mode: TrackMode;
  narrow: boolean;
  onView: (view: ViewInUse) => void;
  onLooking: (looking: boolean) => void;
  onTroll: (trolling: boolean) => void;
}) {
  const { depth } = useUnits();
  // Looking, under way, trolling, and looking again.
  const next = (): void => {
    if (mode === 'troll') {
      onTroll(false);
      onLooking(true);
    } else if (!looking) onTroll(true);
    else onLooking(false);
  };
  const Icon = mode === 'troll' ? Waypoints : looking ? Eye : EyeOff;
  const says =
    mode === 'troll'
      ? msg('viewChoice.trolling')
      : mode === 'fish'
        ? msg('viewChoice.fishing')
        : mode === 'sweep'
          ? msg('viewChoice.sweeping')
          : looking
            ? msg('viewChoice.looking')
            : msg('viewChoice.underWay');
  const { ranges } = DECK_VIEWS.find((v) => v.view === view.view)!;
  return (
    <div className={`flex shrink-0 items-center ${narrow ? 'gap-1' : 'gap-1.5'}`}>
      <select
        aria-label={msg('viewChoice.sonarViewInUse')}
        className={`select h-11 font-semibold ${narrow ? 'w-[6.8rem] px-2' : 'w-36'}`}
        value={view.view}
        onChange={(e) => {
          const chosen = DECK_VIEWS.find((v) => v.view === e.target.value)!;
          onView({ view: chosen.view, range: chosen.ranges.includes(view.range) ? view.range : (chosen.ranges[3] ?? view.range) });
        }}
      >
        {DECK_VIEWS.map((v) => (
          <option key={v.view} value={v.view}>
            {v.label}
          </option>
        ))}
      </select>
      {ranges.length > 0 && (
        <select
          aria-label={msg('viewChoice.rangeOfTheView', { depth })}
          className={`select num h-11 ${narrow ? 'w-[4.4rem] px-2' : 'w-24'}`}
          value={view.range}
          onChange={(e) => onView({ ...view, range: Number(e.target.value) })}
        >
          {ranges.map((r) => (
            <option key={r} value={r}>
              {formatLength(r)}
            </option>
          ))}
        </select>
      )}
      <button
        type="button"
        aria-label={says}
        disabled={mode === 'fish'}
        onClick={next}
        title={HINTS[mode]}
        className={`btn touch-target ${narrow ? 'px-0' : ''} ${looking && mode !== 'troll' ? 'btn-primary' : ''}`}
      >
        {narrow ? <Icon size={22} aria-hidden /> : says}
      </button>
    </div>
  );
}

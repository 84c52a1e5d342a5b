import { Eye, EyeOff } from 'lucide-react';
import { DECK_VIEWS, type ViewInUse } from '../../state/views-in-use';

/** The sonar view in use, how far it sees, and whether anybody watches it. */
export function ViewChoice({
  view,
  looking,
  narrow,
  onView,
  onLooking,
}: {
  view: ViewInUse;
  looking: boolean;
  narrow: boolean;
  onView: (view: ViewInUse) => void;
  onLooking: (looking: boolean) => void;
}) {
  const { ranges } = DECK_VIEWS.find((v) => v.view === view.view)!;
  return (
    <div className="flex flex-wrap items-center gap-1.5 max-md:w-full max-md:gap-1">
      <select
        aria-label="Sonar view in use"
        className="select h-11 w-36 font-semibold max-md:w-[6.6rem] max-md:px-2"
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
          aria-label="Range of the view, m"
          className="select num h-11 w-24 max-md:w-[4.4rem] max-md:px-2"
          value={view.range}
          onChange={(e) => onView({ ...view, range: Number(e.target.value) })}
        >
          {ranges.map((r) => (
            <option key={r} value={r}>
              {r} m
            </option>
          ))}
        </select>
      )}
      <button
        type="button"
        aria-pressed={looking}
        aria-label={looking ? 'Looking' : 'Under way'}
        onClick={() => onLooking(!looking)}
        title={looking ? 'The sonar is watched: the track counts as water looked at' : 'Under way: the track counts as transit'}
        className={`btn touch-target ${narrow ? 'px-0' : ''} ${looking ? 'btn-primary' : ''}`}
      >
        {narrow ? looking ? <Eye size={22} aria-hidden /> : <EyeOff size={22} aria-hidden /> : looking ? 'Looking' : 'Under way'}
      </button>
    </div>
  );
}

import type { TripDetail } from '../../api/queries';
import { Dialog } from '../../parts/dialog';
import { tally } from './tally';

/** What the trip comes to, and what went unlogged, before it ends. */
export function EndTrip({
  detail,
  readings,
  open,
  onReadWater,
  onEnd,
  onClose,
}: {
  detail: TripDetail | null;
  /** How often the water was read. */
  readings: number;
  /** Whether a stop is still being fished. */
  open: boolean;
  onReadWater: () => void;
  onEnd: () => void;
  onClose: () => void;
}) {
  const { targets, sightings, blanks, stops, landed, unsaid, unseen } = tally(detail);
  const some = (n: number, one: string, many: string): string => `${n} ${n === 1 ? one : many}`;
  const missing = [
    readings === 0 && 'The water was not read: no temperature, clarity or wind.',
    open && 'A stop is still open: leave it first, so that it has an outcome.',
    unsaid - Number(open) > 0 &&
      `${some(unsaid - Number(open), 'stop has', 'stops have')} no outcome: it counts neither as fish nor as a blank.`,
    unseen > 0 && `${some(unseen, 'mark does', 'marks do')} not say with which view it was seen.`,
  ].filter((m): m is string => m !== false);
  return (
    <Dialog title="End the trip?" onClose={onClose}>
      <p className="num">
        {some(targets, 'target', 'targets')}
        {sightings > targets && ` in ${sightings} marks`}, {some(blanks, 'blank', 'blanks')}, {some(stops, 'stop', 'stops')},{' '}
        {some(landed, 'fish', 'fish')} landed. The track stops here.
      </p>
      {missing.length > 0 && (
        <ul className="mt-3 flex flex-col gap-1 border-l-4 border-warn pl-3" aria-label="Not logged">
          {missing.map((m) => (
            <li key={m}>{m}</li>
          ))}
        </ul>
      )}
      {readings === 0 && (
        <button type="button" className="btn mt-4 h-12 w-full" onClick={onReadWater}>
          Log the water first
        </button>
      )}
      <button type="button" className="btn btn-primary mt-3 h-12 w-full" onClick={onEnd}>
        End the trip
      </button>
    </Dialog>
  );
}

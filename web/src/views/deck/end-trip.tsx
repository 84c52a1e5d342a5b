import type { TripDetail } from '../../api/queries';
import { DeleteButton } from '../../parts/delete-button';
import { Dialog } from '../../parts/dialog';
import { TallyWords } from './past-trips';
import { some, tally } from './tally';

/** What the trip comes to, and what went unlogged, before it ends. */
export function EndTrip({
  detail,
  readings,
  open,
  simulated,
  hectares,
  onTrack,
  onReadWater,
  onEnd,
  onDiscard,
  onClose,
}: {
  detail: TripDetail | null;
  /** How often the water was read. */
  readings: number;
  /** Whether a stop is still being fished. */
  open: boolean;
  /** Whether the boat is the simulated one. */
  simulated: boolean;
  /** Water looked at, ha. */
  hectares: number;
  onTrack: () => void;
  onReadWater: () => void;
  onEnd: () => void;
  onDiscard: () => void;
  onClose: () => void;
}) {
  const { sightings, blanks, stops, unsaid, unseen } = tally(detail);
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
        <TallyWords detail={detail} hectares={hectares} /> The track stops here.
      </p>
      {missing.length > 0 && (
        <ul className="mt-3 flex flex-col gap-1 border-l-4 border-warn pl-3" aria-label="Not logged">
          {missing.map((m) => (
            <li key={m}>{m}</li>
          ))}
        </ul>
      )}
      <button type="button" className="btn mt-3 h-12 w-full" onClick={onTrack}>
        What the boat was at, by the track
      </button>
      {readings === 0 && (
        <button type="button" className="btn mt-4 h-12 w-full" onClick={onReadWater}>
          Log the water first
        </button>
      )}
      <button type="button" className="btn btn-primary mt-3 h-12 w-full" onClick={onEnd}>
        End the trip
      </button>
      {simulated && <p className="mt-3 text-sm">The boat is simulated: kept, this trip counts as water looked at like any other.</p>}
      <DeleteButton
        label="Delete trip"
        goes={`The trip goes, with ${some(sightings, 'mark', 'marks')}, ${some(blanks, 'blank', 'blanks')}, ${some(stops, 'stop', 'stops')} and its track.`}
        onDelete={onDiscard}
        className="mt-3"
      />
    </Dialog>
  );
}

import type { TripDetail } from '../../api/queries';
import { DeleteButton } from '../../parts/delete-button';
import { Dialog } from '../../parts/dialog';
import { TallyWords } from './past-trips';
import { some, tally } from '../../parts/records/tally';
import { deck as msg } from '../../words';

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
    readings === 0 && msg('endTrip.noWaterReadingsOn'),
    open && msg('endTrip.aStopIsStill'),
    unsaid - Number(open) > 0 &&
      msg('endTrip.noOutcomeItCounts', { unsaid: some(unsaid - Number(open), msg('endTrip.stopHas'), msg('endTrip.stopsHave')) }),
    unseen > 0 && msg('endTrip.notSayWithWhich', { unseen: some(unseen, msg('endTrip.markDoes'), msg('endTrip.marksDo')) }),
  ].filter((m): m is string => m !== false);
  return (
    <Dialog title={msg('endTrip.endTheTrip')} onClose={onClose}>
      <p className="num">
        <TallyWords detail={detail} hectares={hectares} /> {msg('endTrip.theTrackStopsHere')}
      </p>
      {missing.length > 0 && (
        <ul className="mt-3 flex flex-col gap-1 border-l-4 border-warn pl-3" aria-label={msg('endTrip.notLogged')}>
          {missing.map((m) => (
            <li key={m}>{m}</li>
          ))}
        </ul>
      )}
      <button type="button" className="btn mt-3 h-12 w-full" onClick={onTrack}>
        {msg('endTrip.reviewTheTrack')}
      </button>
      {readings === 0 && (
        <button type="button" className="btn mt-4 h-12 w-full" onClick={onReadWater}>
          {msg('endTrip.logWaterReadingsFirst')}
        </button>
      )}
      <button type="button" className="btn btn-primary mt-3 h-12 w-full" onClick={onEnd}>
        {msg('endTrip.endTheTrip2')}
      </button>
      {simulated && <p className="mt-3 text-sm">{msg('endTrip.theBoatIsSimulated')}</p>}
      <DeleteButton
        label={msg('endTrip.deleteTrip')}
        goes={msg('endTrip.theTripGoesWith', {
          sightings: some(sightings, msg('endTrip.mark'), msg('endTrip.marks')),
          blanks: some(blanks, msg('endTrip.blank'), msg('endTrip.blanks')),
          stops: some(stops, msg('endTrip.stop'), msg('endTrip.stops')),
        })}
        onDelete={onDiscard}
        className="mt-3"
      />
    </Dialog>
  );
}

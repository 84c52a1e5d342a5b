import { useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { distance, metricPlane, ringsToOutline, shoreFromTrack, utmEpsg, type LatLon, type NoShore } from '@restless-shoal/core/geo';
import { ask } from '../../api/client';
import { useTrip } from '../../api/queries';
import { dayInZone } from '../../parts/format';
import { beginTrip } from '../../state/begin-trip';
import { useBoatState } from '../../state/boat';
import { useWaterState } from '../../state/water';
import { Problem } from '../../parts/problem';
import { chart as msg } from '../../words';

const WHY: Record<NoShore, string> = {
  short: msg('shorePanel.theTrackIsToo'),
  open: msg('shorePanel.theTrackDoesNot'),
};

/** Length of a way, m. */
const lengthOf = (track: LatLon[]): number => track.reduce((sum, p, i) => (i ? sum + distance(track[i - 1], p) : 0), 0);

/** The shore from a drive round the water: on the trip that runs, or on the last one. */
export function ShorePanel({ epsg, onBuilding }: { epsg: number | null; onBuilding: (job: string) => void }) {
  const { water, log, running } = useWaterState();
  const { source, recorded } = useBoatState();
  const queries = useQueryClient();
  const trip = running ?? [...log.trips].sort((a, b) => b.start.localeCompare(a.start))[0] ?? null;
  const { data } = useTrip(trip?.id ?? null);
  const [failed, setFailed] = useState<string | null>(null);
  const [saving, setSaving] = useState(false);
  const run = (work: () => Promise<void>): void => {
    setFailed(null);
    setSaving(true);
    work()
      .catch((error: Error) => setFailed(error.message))
      .finally(() => setSaving(false));
  };
  // What the server has, and what this page has recorded since; it grows in place as the boat moves.
  const track = useMemo(
    () =>
      [...new Map([...(data?.track ?? []), ...(running ? recorded : [])].map((f) => [f.time, f])).values()].sort((a, b) =>
        a.time.localeCompare(b.time),
      ),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the boat's news stands for what is recorded
    [data, running, recorded, source.boat],
  );
  // A water of which nothing is known yet lies where its track lies.
  const zone = epsg ?? (track.length ? utmEpsg(track[0]) : null);
  const shore = useMemo(() => {
    if (!track.length || zone === null) return null;
    const plane = metricPlane(zone);
    return shoreFromTrack(track.map((f) => plane.toMetric(f)));
  }, [track, zone]);
  const start = track[0];
  const here = source.boat?.position ?? track.at(-1);
  const save = (): void =>
    run(async () => {
      if (!shore || 'fault' in shore || zone === null) return;
      const plane = metricPlane(zone);
      const outline = ringsToOutline(shore.rings, (p) => {
        const { latitude, longitude } = plane.toLatLon(p);
        return [Number(longitude.toFixed(7)), Number(latitude.toFixed(7))];
      });
      const { job } = await ask('PUT /waters/:water/outline', { water: water.id }, { body: { outline } });
      await queries.invalidateQueries({ queryKey: ['water', water.id] });
      onBuilding(job);
    });
  return (
    <>
      <p className="text-sm text-mute">{msg('shorePanel.driveOnceRoundThe')}</p>
      {!running && (
        <button
          type="button"
          className="btn btn-primary mt-2 h-14 w-full text-lg"
          disabled={saving}
          onClick={() => run(() => beginTrip(water, log.trips, { purpose: 'scout', goal: null }))}
        >
          {msg('shorePanel.startDriving')}
        </button>
      )}
      {source.trouble && running && <p className="mt-2 text-sm text-warn">{source.trouble}</p>}
      {track.length > 1 && (
        <p className="num mt-2" data-testid="driven">
          {msg('shorePanel.mDriven', { track: lengthOf(track) })}
          {running && start && here && msg('shorePanel.mFromWhereYou', { start: distance(start, here) })}
          {!running && trip && (
            <span className="text-mute"> {msg('shorePanel.on', { start: dayInZone(new Date(trip.start), water.time_zone) })}</span>
          )}
        </p>
      )}
      {shore && 'fault' in shore && <p className="mt-1 text-sm text-mute">{WHY[shore.fault]}</p>}
      {shore && !('fault' in shore) && (
        <button type="button" className="btn btn-primary mt-2 h-12 w-full" disabled={saving} onClick={save}>
          {msg('shorePanel.makeThisTrackThe')}
        </button>
      )}
      <Problem words={failed} />
    </>
  );
}

import { useImporting } from '../state/importing';
import { useBuilds } from '../state/jobs';
import { useWaterState } from '../state/water';
import { BuildNotes } from './build-notes';

/** What a view shows while the water has no chart: the one thing to do next. */
export function NoChart() {
  const { water } = useWaterState();
  const builds = useBuilds(water.id);
  const bringIn = useImporting();
  return (
    <div className="mx-auto mt-16 max-w-lg p-6">
      <h1 className="text-2xl font-bold">{water.name} has no chart yet</h1>
      {!builds.running.length && (
        <>
          <p className="mt-2 text-mute">
            The chart is made from your own soundings and the shore line: CSV, GPX tracks with depths, NMEA logs, an outline as GeoJSON.
          </p>
          <button type="button" className="btn btn-primary touch-target my-4" onClick={() => bringIn(water.name)}>
            Bring in files
          </button>
        </>
      )}
      <BuildNotes builds={builds} />
    </div>
  );
}

import { useWaterState } from '../state/water';

/** What a view shows while the water has no chart: the one thing to do next. */
export function NoChart() {
  const { water } = useWaterState();
  return (
    <div className="mx-auto mt-16 max-w-lg p-6">
      <h1 className="text-2xl font-bold">{water.name} has no chart yet</h1>
      <p className="mt-2 text-mute">The chart is made from your own soundings and the shore line. Bring in either:</p>
      <pre className="mt-4 overflow-x-auto rounded-box border border-line bg-surface p-4 font-mono text-sm">
        ./shoal import --water "{water.name}" soundings.csv outline.geojson
      </pre>
    </div>
  );
}

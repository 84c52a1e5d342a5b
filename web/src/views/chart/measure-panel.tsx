import { useEffect, useState } from 'react';
import { bearing, distance, metricPlane, ringsArea, type Point } from '@restless-shoal/core/geo';
import { formatLength, metric } from '@restless-shoal/core/units';
import { hectares } from '../../parts/format';
import { Segments } from '../../parts/segments';
import type { WaterMapController } from '../../parts/water-map';
import { useUnits } from '../../state/units';

/** Distance and bearing along a line, or the size of an area, drawn on the map. */
export function MeasurePanel({ map, epsg }: { map: WaterMapController | null; epsg: number }) {
  const { depth: unit } = useUnits();
  const [kind, setKind] = useState<'LineString' | 'Polygon'>('LineString');
  const [points, setPoints] = useState<Point[]>([]);
  const [done, setDone] = useState(false);
  const [round, setRound] = useState(0);
  useEffect(() => {
    if (!map) return;
    setPoints([]);
    setDone(false);
    map.drawing.start(kind, (drawn, finished) => {
      setPoints(drawn);
      setDone(finished);
    });
    return () => map.drawing.stop();
  }, [map, kind, round]);
  const places = points.map((p) => metricPlane(epsg).toLatLon(p));
  const length = (metres: number): string => formatLength(metres, { ...metric, depth: unit });
  const legs = places
    .slice(1)
    .map((p, k) => ({ metres: distance(places[k], p), course: bearing(places[k], p) }))
    .filter((leg) => leg.metres > 0.5);
  const total = legs.reduce((sum, leg) => sum + leg.metres, 0);
  const last = legs[legs.length - 1];
  return (
    <>
      <Segments
        label="What to measure"
        value={kind}
        options={[
          ['LineString', 'Distance and bearing'],
          ['Polygon', 'Area'],
        ]}
        onChange={setKind}
      />
      <div className="num mt-3" data-testid="measured" aria-live="polite">
        {kind === 'LineString' && last ? (
          <>
            <p className="text-2xl font-bold">{length(total)}</p>
            <p>
              {legs.length > 1 ? `${legs.length} legs; the last ${length(last.metres)} towards ` : 'towards '}
              {Math.round(last.course) % 360}° true
            </p>
          </>
        ) : kind === 'Polygon' && points.length > 2 ? (
          <>
            <p className="text-2xl font-bold">{hectares(Math.abs(ringsArea([points])))}</p>
            <p>{length(total + distance(places[places.length - 1], places[0]))} around</p>
          </>
        ) : (
          <p className="text-mute">
            Press the map point by point; press twice to end. With keys: move the map with the arrows, Enter sets a point at its middle,
            Enter again ends.
          </p>
        )}
      </div>
      <div className="mt-3 flex gap-2">
        {!done && points.length > 2 && (
          <button type="button" className="btn touch-target flex-1" onClick={() => map?.drawing.finish()}>
            End here
          </button>
        )}
        <button type="button" className="btn touch-target flex-1" onClick={() => setRound(round + 1)}>
          Measure anew
        </button>
      </div>
    </>
  );
}

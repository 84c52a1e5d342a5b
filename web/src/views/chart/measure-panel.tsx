import { useEffect, useState } from 'react';
import { bearing, distance, metricPlane, ringsArea, type Point } from '@restless-shoal/core/geo';
import { metric } from '@restless-shoal/core/units';
import { hectares } from '../../parts/format';
import { Segments } from '../../parts/segments';
import type { WaterMapController } from '../../parts/water-map';
import { useUnits } from '../../state/units';
import { formatLength, chart as msg } from '../../words';

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
        label={msg('measurePanel.whatToMeasure')}
        value={kind}
        options={[
          ['LineString', msg('measurePanel.distanceAndBearing')],
          ['Polygon', msg('measurePanel.area')],
        ]}
        onChange={setKind}
      />
      <div className="num mt-3" data-testid="measured" aria-live="polite">
        {kind === 'LineString' && last ? (
          <>
            <p className="text-2xl font-bold">{length(total)}</p>
            <p>
              {msg('measurePanel.true', {
                legs:
                  legs.length > 1 ? msg('measurePanel.legsTheLastTowards', { legs: legs.length, metres: length(last.metres) }) : 'towards ',
                course: Math.round(last.course) % 360,
              })}
            </p>
          </>
        ) : kind === 'Polygon' && points.length > 2 ? (
          <>
            <p className="text-2xl font-bold">{hectares(Math.abs(ringsArea([points])))}</p>
            <p>{msg('measurePanel.around', { total: length(total + distance(places[places.length - 1], places[0])) })}</p>
          </>
        ) : (
          <p className="text-mute">{msg('measurePanel.tapTheMapPoint')}</p>
        )}
      </div>
      <div className="mt-3 flex gap-2">
        {!done && points.length > 2 && (
          <button type="button" className="btn touch-target flex-1" onClick={() => map?.drawing.finish()}>
            {msg('measurePanel.endHere')}
          </button>
        )}
        <button type="button" className="btn touch-target flex-1" onClick={() => setRound(round + 1)}>
          {msg('measurePanel.measureAnew')}
        </button>
      </div>
    </>
  );
}

import { Move } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { metricPlane, type LatLon, type Point } from '@restless-shoal/core/geo';
import type { TripDetail } from '../../api/queries';
import { METRES_PER } from '../../parts/format';
import { WaterMap, type MapMark, type WaterMapController } from '../../parts/water-map';
import { useUnits } from '../../state/units';
import { useWaterState } from '../../state/water';
import { useForecastService } from '../../workers/forecast-service';
import { useContours } from '../../workers/use-contours';
import { logbook as msg } from '../../words';

/** A gap in the track longer than this is no way that was driven, ms. */
const GAP = 300_000;

/** A list that stays the same object for as long as it says the same. */
function useSame<T>(list: T[]): T[] {
  const [kept, keep] = useState(list);
  const same = kept === list || JSON.stringify(kept) === JSON.stringify(list);
  useEffect(() => {
    if (!same) keep(list);
  }, [same, list]);
  return same ? kept : list;
}

/** A trip's track and marks. A mark opens when it is pressed, and is dragged to another place once that is asked for. */
export function TripMap({
  detail,
  onOpen,
  onMove,
}: {
  detail: TripDetail;
  onOpen: (id: string) => void;
  onMove: (id: string, to: LatLon) => void;
}) {
  const { ground, chartBytes, water, day } = useWaterState();
  const { service } = useForecastService(chartBytes);
  const { depth: unit } = useUnits();
  const contours = useContours(service, day.level, METRES_PER[unit]);
  const [map, setMap] = useState<WaterMapController | null>(null);
  const [moving, setMoving] = useState(false);
  const plane = useMemo(() => (ground ? metricPlane(ground.epsg) : null), [ground]);
  const found = useMemo(
    (): MapMark[] =>
      plane
        ? [
            ...detail.contacts.map((c) => ({ id: c.id, kind: c.kind, at: plane.toMetric(c) })),
            ...detail.stops.map((s) => ({ id: s.id, kind: s.outcome === 'nothing' ? 'blank' : 'stop', at: plane.toMetric(s) })),
          ].map(({ id, kind, at: [x, y] }) => ({ id, kind, x, y }))
        : [],
    [detail, plane],
  );
  // Drawn anew only when a mark stands elsewhere or is another thing: a change of its species leaves the map as it is.
  const marks = useSame(found);
  const tracks = useMemo(() => {
    const ways: Point[][] = [];
    let last = -Infinity;
    for (const fix of plane ? detail.track : []) {
      const at = Date.parse(fix.time);
      if (at - last > GAP || !ways.length) ways.push([]);
      ways.at(-1)!.push(plane!.toMetric(fix));
      last = at;
    }
    return ways;
  }, [detail.track, plane]);
  const moved = useRef(onMove);
  useEffect(() => {
    moved.current = onMove;
  });
  useEffect(() => {
    if (!map || !plane || !moving) return;
    map.moveMarks((id, [x, y]) => moved.current(id, plane.toLatLon([x, y])));
    return () => map.moveMarks(null);
  }, [map, plane, moving]);
  if (!ground) return null;
  return (
    <WaterMap
      label={msg('tripMap.theTripOn', { water: water.name })}
      contours={contours}
      unit={METRES_PER[unit]}
      marks={marks}
      tracks={tracks}
      onReady={setMap}
      onPick={(_, { mark }) => mark !== null && !moving && onOpen(mark)}
    >
      <div className="absolute left-3 top-3 flex max-w-[calc(100%-1.5rem)] flex-wrap items-center gap-2">
        <button
          type="button"
          aria-pressed={moving}
          className={`btn touch-target border-line ${moving ? 'btn-primary' : 'bg-surface'}`}
          onClick={() => setMoving(!moving)}
        >
          <Move size={18} aria-hidden /> {moving ? msg('tripMap.done') : msg('tripMap.moveMarks')}
        </button>
        {moving && <span className="rounded bg-surface/90 px-2 py-1 text-sm">{msg('tripMap.dragAMark')}</span>}
      </div>
    </WaterMap>
  );
}

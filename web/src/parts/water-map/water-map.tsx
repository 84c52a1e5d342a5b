import { Maximize, Minus, Plus } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import type { ContourLine } from '@restless-shoal/core/chart';
import { metricPlane, outlineToRings, type Point } from '@restless-shoal/core/geo';
import { useTheme } from '../../state/theme';
import { useWaterState } from '../../state/water';
import { WaterMapController, type ChanceLayer, type MapMark, type MapPlace } from './controller';

interface WaterMapProps {
  label: string;
  contours: ContourLine[];
  band?: [number, number] | null;
  chance?: ChanceLayer | null;
  marks?: MapMark[];
  places?: MapPlace[];
  chosen?: number | null;
  /** The point looked at, m; the map moves there when it changes by `goTo`. */
  point?: Point | null;
  goTo?: Point | null;
  onHover?: (point: Point | null) => void;
  onPick?: (point: Point, place: number | null) => void;
  /** Room that panels take on the left of a wide window, px. */
  leftRoom?: number;
  children?: ReactNode;
}

/** The map of the water in use. Arrow keys move it, + and − zoom, Enter looks at its middle. */
export function WaterMap({
  label,
  contours,
  band = null,
  chance = null,
  marks,
  places,
  chosen = null,
  point = null,
  goTo = null,
  onHover,
  onPick,
  leftRoom = 0,
  children,
}: WaterMapProps) {
  const { chart, water } = useWaterState();
  const theme = useTheme();
  const target = useRef<HTMLDivElement>(null);
  const [map, setMap] = useState<WaterMapController | null>(null);
  const listeners = useRef({ onHover, onPick });
  useEffect(() => {
    listeners.current = { onHover, onPick };
  });

  const rings = useMemo(() => {
    if (!chart || !water.outline) return null;
    const plane = metricPlane(chart.epsg);
    return outlineToRings(water.outline, (longitude, latitude) => plane.toMetric({ latitude, longitude }));
  }, [chart, water.outline]);

  useEffect(() => {
    if (!chart || !rings || !target.current) return;
    const controller = new WaterMapController(target.current, chart, rings, [
      30,
      70,
      30,
      30 + (target.current.clientWidth > 900 ? leftRoom : 0),
    ]);
    controller.onHover((p) => listeners.current.onHover?.(p));
    controller.onPick((p, place) => listeners.current.onPick?.(p, place));
    setMap(controller);
    return () => {
      setMap(null);
      controller.dispose();
    };
  }, [chart, rings, leftRoom]);

  const [top, bottom] = band ?? [null, null];
  useEffect(() => map?.setDepth(top === null || bottom === null ? null : [top, bottom]), [map, theme, top, bottom]);
  useEffect(() => map?.setContours(contours), [map, contours]);
  useEffect(() => map?.setMarks(marks ?? []), [map, marks]);
  useEffect(() => map?.restyle(), [map, theme]);
  useEffect(() => map?.setChance(chance), [map, theme, chance]);
  useEffect(() => map?.setPlaces(places ?? [], chosen), [map, theme, places, chosen]);
  useEffect(() => map?.setPoint(point), [map, theme, point]);
  useEffect(() => {
    if (goTo) map?.goTo(goTo);
  }, [map, goTo]);

  const button = 'btn touch-target border-line bg-surface px-0';
  return (
    <div className="relative h-full w-full overflow-hidden bg-ground">
      <div ref={target} tabIndex={0} role="application" aria-label={label} className="absolute inset-0" />
      <div className="absolute bottom-3 right-3 flex flex-col gap-1.5">
        <button type="button" className={button} aria-label="Nearer" onClick={() => map?.zoomBy(0.6)}>
          <Plus aria-hidden />
        </button>
        <button type="button" className={button} aria-label="Farther" onClick={() => map?.zoomBy(1 / 0.6)}>
          <Minus aria-hidden />
        </button>
        <button type="button" className={button} aria-label="All of the water" onClick={() => map?.fit()}>
          <Maximize aria-hidden size={20} />
        </button>
      </div>
      {children}
    </div>
  );
}

import { Maximize, Minus, Plus } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import type { ChartFeature, ContourLine } from '@restless-shoal/core/chart';
import { metricPlane, outlineToRings, type Point, type Raster, type Rings } from '@restless-shoal/core/geo';
import { useTheme } from '../../state/theme';
import { useWaterState } from '../../state/water';
import { WaterMapController } from './controller';
import type { ChanceLayer, MapHit, MapMark, MapPlace } from './map-things';
import type { MapCover } from './map-features';
import type { DrawnSoundings } from './sheets';
import { useUnits } from '../../state/units';
import { scaleBar } from '../format';
import { parts as msg } from '../../words';

interface WaterMapProps {
  label: string;
  contours: ContourLine[];
  /** Length of the unit that contours are labelled in, m. */
  unit?: number;
  relief?: boolean;
  overlay?: 'hardness' | 'doubt' | null;
  soundings?: DrawnSoundings | null;
  freshOnly?: boolean;
  shapes?: ChartFeature[];
  chosenShape?: ChartFeature | null;
  cover?: MapCover[];
  /** The trip's own chart. */
  trip?: Raster | null;
  band?: [number, number] | null;
  chance?: ChanceLayer | null;
  marks?: MapMark[];
  places?: MapPlace[];
  chosen?: number | null;
  /** Ways that were driven, m. */
  tracks?: Point[][];
  /** Lines that the boat is to go along, m. */
  runs?: Point[][];
  /** The point looked at, m; the map moves there when it changes by `goTo`. */
  point?: Point | null;
  goTo?: Point | null;
  /** What is to be seen round it, m; the least way in where it is not said. */
  goToReach?: number;
  onHover?: (point: Point | null) => void;
  onPick?: (point: Point, hit: MapHit) => void;
  /** Metres a pixel, whenever they change. */
  onResolution?: (resolution: number) => void;
  /** Hands out the map for drawing on it; null when it goes. */
  onReady?: (map: WaterMapController | null) => void;
  /** Room that panels take on the left of a wide window, px. */
  leftRoom?: number;
  /** Room that panels take at the top, px: at most a quarter of the map's height. */
  topRoom?: number;
  /** Room that panels take at the bottom, px. */
  bottomRoom?: number;
  children?: ReactNode;
}

const NONE: never[] = [];
const NO_RINGS: Rings = [];
/** Toolbar and a closed panel of the chart, px. */
const BELOW_PANEL = 160;

/** The map of the water in use. Arrow keys move it, + and − zoom, Enter looks at its middle. */
export function WaterMap({
  label,
  contours,
  unit = 1,
  relief = true,
  overlay = null,
  soundings = null,
  freshOnly = false,
  shapes = NONE,
  chosenShape = null,
  cover = NONE,
  trip = null,
  band = null,
  chance = null,
  marks,
  places,
  chosen = null,
  tracks = NONE,
  runs = NONE,
  point = null,
  goTo = null,
  goToReach,
  onHover,
  onPick,
  onReady,
  onResolution,
  leftRoom = 0,
  topRoom = 0,
  bottomRoom = 0,
  children,
}: WaterMapProps) {
  const { ground: chart, water } = useWaterState();
  const theme = useTheme();
  const target = useRef<HTMLDivElement>(null);
  const { depth: lengths } = useUnits();
  const [resolution, setResolution] = useState<number | null>(null);
  const scale = resolution && scaleBar(resolution, lengths);
  const [map, setMap] = useState<WaterMapController | null>(null);
  const listeners = useRef({ onHover, onPick, onReady, onResolution });
  useEffect(() => {
    listeners.current = { onHover, onPick, onReady, onResolution };
  });

  const rings = useMemo(() => {
    if (!chart) return null;
    if (!water.outline) return NO_RINGS;
    const plane = metricPlane(chart.epsg);
    return outlineToRings(water.outline, (longitude, latitude) => plane.toMetric({ latitude, longitude }));
  }, [chart, water.outline]);

  const latest = useRef({ chart, rings });
  useEffect(() => {
    latest.current = { chart, rings };
    if (chart && rings) map?.setChart(chart, rings);
  }, [map, chart, rings]);

  // One map for as long as the water stays in its plane: a new build changes what is on it, not where one looks.
  const plane = chart && rings ? chart.epsg : null;
  useEffect(() => {
    const { chart: first, rings: shore } = latest.current;
    if (plane === null || !first || !shore || !target.current) return;
    const { clientWidth: width, clientHeight: height } = target.current;
    const top = 30 + Math.min(topRoom, 0.25 * height);
    const bottom = 30 + bottomRoom;
    const wide = leftRoom > 0 && width > 900;
    const controller = new WaterMapController(
      target.current,
      first,
      shore,
      // A long water fits below a panel that is no higher than this, a tall one beside it.
      wide ? [[top, 70, bottom, 30 + leftRoom], [Math.max(top, BELOW_PANEL), 70, bottom, 30]] : [[top, 70, bottom, 30]], // prettier-ignore
    );
    controller.onHover((p) => listeners.current.onHover?.(p));
    controller.onPick((p, hit) => listeners.current.onPick?.(p, hit));
    const zoomed = (): void => {
      const now = controller.resolution();
      setResolution(now);
      listeners.current.onResolution?.(now);
    };
    controller.onZoom(zoomed);
    zoomed();
    setMap(controller);
    listeners.current.onReady?.(controller);
    return () => {
      setMap(null);
      listeners.current.onReady?.(null);
      controller.dispose();
    };
  }, [plane, leftRoom, topRoom, bottomRoom]);

  const [top, bottom] = band ?? [null, null];
  useEffect(() => map?.setDepth(top === null || bottom === null ? null : [top, bottom], relief), [map, theme, chart, top, bottom, relief]);
  useEffect(() => map?.setContours(contours, unit), [map, contours, unit]);
  useEffect(() => map?.setOverlay(overlay), [map, theme, chart, overlay]);
  useEffect(() => map?.setSoundings(soundings, freshOnly), [map, soundings, freshOnly]);
  useEffect(() => map?.setShapes(shapes, chosenShape), [map, shapes, chosenShape]);
  useEffect(() => map?.setCover(cover), [map, cover]);
  useEffect(() => map?.setTrip(trip), [map, theme, chart, trip]);
  useEffect(() => map?.setMarks(marks ?? []), [map, marks]);
  useEffect(() => map?.restyle(), [map, theme]);
  useEffect(() => map?.setChance(chance), [map, theme, chance]);
  useEffect(() => map?.setPlaces(places ?? [], chosen), [map, theme, places, chosen]);
  useEffect(() => map?.setTracks(tracks), [map, theme, tracks]);
  useEffect(() => map?.setRuns(runs), [map, theme, runs]);
  useEffect(() => map?.setPoint(point), [map, theme, point]);
  useEffect(() => {
    if (goTo) map?.goTo(goTo, goToReach);
  }, [map, goTo, goToReach]);

  const button = 'btn touch-target border-line bg-surface px-0';
  return (
    <div className="relative h-full w-full overflow-hidden bg-ground">
      <div ref={target} tabIndex={0} role="application" aria-label={label} className="absolute inset-0" />
      <div className="absolute bottom-3 right-3 flex flex-col gap-1.5">
        <button type="button" className={button} aria-label={msg('waterMap.nearer')} onClick={() => map?.zoomBy(0.6)}>
          <Plus aria-hidden />
        </button>
        <button type="button" className={button} aria-label={msg('waterMap.farther')} onClick={() => map?.zoomBy(1 / 0.6)}>
          <Minus aria-hidden />
        </button>
        <button type="button" className={button} aria-label={msg('waterMap.allOfTheWater')} onClick={() => map?.fit()}>
          <Maximize aria-hidden size={20} />
        </button>
      </div>
      {scale && (
        <div className="pointer-events-none absolute bottom-3 right-16 flex items-end gap-3 rounded bg-surface/85 px-2 py-1 text-xs font-semibold max-md:bottom-40 max-md:right-3 max-md:flex-col max-md:gap-1">
          <span className="text-warn">{msg('waterMap.notForNavigation')}</span>
          <span className="num flex flex-col items-center">
            {scale.label}
            <span className="block h-1.5 border-x-2 border-b-2 border-ink" style={{ width: scale.pixels }} />
          </span>
        </div>
      )}
      {children}
    </div>
  );
}

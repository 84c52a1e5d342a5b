import { Layers, Mountain, PencilLine, Radar, Ruler, Waves } from 'lucide-react';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import type { ChartFeature } from '@restless-shoal/core/chart';
import { metricPlane, outlineToRings, type Point } from '@restless-shoal/core/geo';
import { windowOn } from '@restless-shoal/core/forecast';
import { useContacts, useSoundings } from '../../api/queries';
import { BuildNotes } from '../../parts/build-notes';
import { grouped, METRES_PER, depthText } from '../../parts/format';
import { LEAST_BAND } from '../../parts/depth-band';
import { NoChart } from '../../parts/no-chart';
import { PositionField } from '../../parts/position-field';
import { WaterMap, type DrawnSoundings, type MapCover, type MapMark, type WaterMapController } from '../../parts/water-map';
import { useBoatState } from '../../state/boat';
import { useSpots } from '../../state/use-spots';
import { useUnits } from '../../state/units';
import { useImporting } from '../../state/importing';
import { useBuilds } from '../../state/jobs';
import { useWaterState } from '../../state/water';
import { useContours } from '../../workers/use-contours';
import { useForecastService } from '../../workers/forecast-service';
import { BandPanel } from './band-panel';
import { DrawPanel } from './draw-panel';
import { LayersPanel, type ChartLayers } from './layers-panel';
import { mapCover } from '../../parts/map-cover';
import { MeasurePanel } from './measure-panel';
import { filterShapes, FIRST_KINDS, type ShapeFilter } from './filter-shapes';
import { ShapesPanel } from './shapes-panel';
import { SketchChart } from './sketch-chart';
import { SoundingsPanel } from './soundings-panel';
import { Toolbar, type ChartTool } from './toolbar';
import { ChosenSign } from './chosen-sign';
import { ChosenShape, UnderFinger } from './under-finger';
import { chart as msg } from '../../words';

type Tool = 'band' | 'shapes' | 'measure' | 'draw' | 'soundings' | 'layers';
const TOOLS: ChartTool<Tool>[] = [
  { tool: 'band', words: msg('chart.depths'), icon: Waves },
  { tool: 'shapes', words: msg('chart.shapes'), icon: Mountain },
  { tool: 'measure', words: msg('chart.measure'), icon: Ruler },
  { tool: 'draw', words: msg('chart.draw'), icon: PencilLine },
  { tool: 'soundings', words: msg('chart.soundings'), icon: Radar },
  // On a wide screen the layers have a place of their own.
  { tool: 'layers', words: msg('chart.layers'), icon: Layers, narrowOnly: true },
];

const NO_MARKS: MapMark[] = [];
const NO_COVER: MapCover[] = [];
const NO_SHAPES: ChartFeature[] = [];

/** A depth band from the address, as in ?band=4.6-7.0; null when there is none that makes sense. */
function bandIn(text: string | null): [number, number] | null {
  const match = /^(\d+(?:\.\d+)?)-(\d+(?:\.\d+)?)$/.exec(text ?? '');
  return match && Number(match[1]) < Number(match[2]) ? [Number(match[1]), Number(match[2])] : null;
}

/** The day's window as the Brief says it, in tenths of a metre, at least as wide as a band can be. */
const tenths = (top: number, bottom: number): [number, number] => {
  const from = Math.round(top * 10) / 10;
  return [from, Math.max(Math.round(bottom * 10) / 10, from + LEAST_BAND)];
};

/** The water as its owner sounded it, or what is known of it before anybody did. */
export function ChartView() {
  const { chart, ground } = useWaterState();
  return chart ? <SoundedChart /> : ground ? <SketchChart /> : <NoChart />;
}

function SoundedChart() {
  const { chart, chartBytes, day, season, species, water } = useWaterState();
  const { depth: unit } = useUnits();
  const { service } = useForecastService(chartBytes);
  const [detail, setDetail] = useState(12);
  const contours = useContours(service, day.level, METRES_PER[unit], detail);
  const contacts = useContacts(water.id);
  const builds = useBuilds(water.id);
  const { tripChart: trip } = useBoatState();
  const [search, setSearch] = useSearchParams();
  const asked = bandIn(search.get('band'));
  // The tool stands in the address; on a wide window it begins with the depths.
  const named = search.get('tool');
  const tool: Tool | null = TOOLS.find((t) => t.tool === named)?.tool ?? (named === 'none' || globalThis.innerWidth < 768 ? null : 'band');
  const setTool = (next: Tool | null): void => {
    const out = new URLSearchParams(search);
    out.set('tool', next ?? 'none');
    setSearch(out, { replace: true });
  };
  const [shaded, setShaded] = useState(asked !== null);
  const [showLayers, setShowLayers] = useState(false);
  const [layers, setLayers] = useState<ChartLayers>({
    relief: true,
    contours: true,
    overlay: null,
    soundings: 'none',
    marks: true,
    spots: true,
    others: true,
    cover: true,
    shapes: false,
  });
  const [hover, setHover] = useState<Point | null>(null);
  const [picked, setPicked] = useState<Point | null>(null);
  const [goTo, setGoTo] = useState<Point | null>(null);
  const [chosen, setChosen] = useState<ChartFeature | null>(null);
  const [map, setMap] = useState<WaterMapController | null>(null);
  const bringIn = useImporting();
  const max = Math.max(6, Math.ceil(chart?.deepest ?? 10));
  const [filter, setFilter] = useState<ShapeFilter>({ kinds: FIRST_KINDS, depth: [0, max], size: 0 });
  // Another chart has other shapes, and may be deeper.
  useEffect(() => {
    setChosen(null);
    setFilter((before) => ({ ...before, depth: [0, max] }));
  }, [chart, max]);

  const spawning = season.stage === 'spawning';
  const window = useMemo(() => windowOn(species, day, spawning), [species, day, spawning]);
  const [band, setBand] = useState<[number, number]>(() => asked ?? tenths(window.top, window.bottom));
  const marks = useMemo((): MapMark[] => {
    if (!chart || !contacts.data) return NO_MARKS;
    const plane = metricPlane(chart.epsg);
    return contacts.data.map((c) => {
      const [x, y] = plane.toMetric(c);
      return { id: c.id, kind: c.kind, x, y };
    });
  }, [chart, contacts.data]);
  const [own, sent] = useMemo((): [MapCover[], MapCover[]] => {
    const cover = chart ? mapCover(water.cover, chart.epsg) : NO_COVER;
    return [cover.filter((c) => c.sent === undefined), cover.filter((c) => c.sent !== undefined)];
  }, [chart, water.cover]);
  const { spots, change, remove } = useSpots(water.id);
  const [opened, setOpened] = useState<string | null>(null);
  const spotSigns = useMemo((): MapCover[] => {
    if (!chart || !spots) return NO_COVER;
    const plane = metricPlane(chart.epsg);
    return spots.map((s) => ({
      kind: 'mark',
      name: s.name,
      sign: `spot ${s.id}`,
      geometry: { type: 'Point', points: [plane.toMetric(s)] },
    }));
  }, [chart, spots]);
  const signs = useMemo(
    () => [
      ...(layers.cover && tool !== 'shapes' ? own : NO_COVER),
      ...(layers.others && tool !== 'shapes' ? sent : NO_COVER),
      ...(layers.spots ? spotSigns : NO_COVER),
    ],
    [layers.cover, layers.others, layers.spots, tool, own, sent, spotSigns],
  );
  const soundings = useSoundings(water.id, layers.soundings !== 'none');
  const drawn = useMemo((): DrawnSoundings | null => {
    const s = soundings.data;
    return s ? { x: s.x, y: s.y, fresh: Uint8Array.from(s.survey, (n) => (n === s.newest ? 1 : 0)) } : null;
  }, [soundings.data]);
  const shapes = useMemo(() => filterShapes(chart?.features ?? NO_SHAPES, filter), [chart, filter]);
  const showShapes = layers.shapes || tool === 'shapes';
  const drawnShapes = useMemo(
    () => (showShapes ? (chosen && !shapes.includes(chosen) ? [...shapes, chosen] : shapes) : chosen ? [chosen] : NO_SHAPES),
    [showShapes, shapes, chosen],
  );
  const rings = useMemo(() => {
    if (!chart || !water.outline) return [];
    const plane = metricPlane(chart.epsg);
    return outlineToRings(water.outline, (longitude, latitude) => plane.toMetric({ latitude, longitude }));
  }, [chart, water.outline]);
  const choose = useCallback((shape: ChartFeature) => {
    setChosen(shape);
    setPicked([shape.x, shape.y]);
    setGoTo([shape.x, shape.y]);
  }, []);

  if (!chart) return null;
  const drawing = tool === 'measure' || tool === 'draw';
  // Marks would hide what is looked for or drawn.
  const busy = drawing || tool === 'shapes';
  const fresh = soundings.data ? `, ${grouped(drawn!.fresh.reduce((sum, v) => sum + v, 0))}` : '';
  const point = hover ?? picked;
  const layersPanel = (
    <LayersPanel
      layers={layers}
      onLayers={setLayers}
      counts={{
        soundings: grouped(soundings.data?.all ?? chart.soundings),
        fresh,
        marks: grouped(marks.length),
        spots: grouped(spotSigns.length),
        others: sent.length ? grouped(sent.length) : null,
        shapes: grouped(chart.features.length),
        cover: grouped(own.length),
      }}
    />
  );
  return (
    <WaterMap
      label={msg('chart.chartOf', { name: water.name })}
      contours={layers.contours ? contours : NO_CONTOURS}
      unit={METRES_PER[unit]}
      relief={layers.relief}
      overlay={layers.overlay}
      soundings={layers.soundings === 'none' ? null : drawn}
      freshOnly={layers.soundings === 'new'}
      shapes={drawnShapes}
      chosenShape={chosen}
      cover={signs}
      trip={trip?.depth ?? null}
      band={shaded ? band : null}
      marks={layers.marks && !busy ? marks : NO_MARKS}
      point={drawing ? null : picked}
      goTo={goTo}
      onHover={setHover}
      onReady={setMap}
      // The closer the look, the finer the contours.
      onResolution={(metres) => setDetail(metres < 0.9 ? 60 : metres < 2.2 ? 30 : 12)}
      onPick={(p, { shape, sign }) => {
        if (drawing) return;
        setPicked(p);
        setOpened(sign);
        setChosen(shape);
      }}
      leftRoom={350}
    >
      <div className="pointer-events-none absolute inset-y-3 left-3 flex w-[min(21.5rem,calc(100%-1.5rem))] flex-col gap-2 [&>*]:pointer-events-auto">
        <Toolbar tools={TOOLS} tool={tool} onTool={(own) => setTool(tool === own ? null : own)} />
        {tool && (
          <section
            aria-label={TOOLS.find((t) => t.tool === tool)!.words}
            className="flex min-h-0 flex-col overflow-y-auto rounded-box border border-line bg-surface p-3 max-md:max-h-[45%]"
          >
            {tool === 'band' && (
              <BandPanel
                shaded={shaded}
                onShade={setShaded}
                band={band}
                onBand={setBand}
                max={max}
                window={window.empty ? null : tenths(window.top, window.bottom)}
              />
            )}
            {tool === 'shapes' && (
              <ShapesPanel
                all={chart.features}
                shown={shapes}
                filter={filter}
                onFilter={setFilter}
                max={max}
                chosen={chosen}
                onChoose={choose}
              />
            )}
            {tool === 'layers' && layersPanel}
            {tool === 'measure' && <MeasurePanel map={map} epsg={chart.epsg} />}
            {tool === 'draw' && <DrawPanel map={map} epsg={chart.epsg} rings={rings} onBuilding={builds.watch} />}
            {tool === 'soundings' && (
              <SoundingsPanel key={chart.soundings} onImport={() => bringIn(water.name)} onBuilding={builds.watch} />
            )}
          </section>
        )}
        <div className="flex-1 !pointer-events-none" />
        <BuildNotes builds={builds} />
        {trip && (
          <p className="num rounded-box border border-line bg-surface px-3 py-2 text-sm" data-testid="trip-chart">
            <b>{msg('chart.thisTripsOwnChart')}</b>
            {msg('chart.soundingsMadeOnThis', { soundings: grouped(trip.soundings) })}
          </p>
        )}
        <section aria-label={msg('chart.whatLiesThere')} className="rounded-box max-md:mr-12 border border-line bg-surface p-3">
          {opened && (
            <ChosenSign
              sign={opened}
              spots={spots}
              cover={water.cover}
              zone={water.time_zone}
              onChange={change}
              onRemove={remove}
              onClose={() => setOpened(null)}
            />
          )}
          {chosen && <ChosenShape shape={chosen} onClose={() => setChosen(null)} />}
          {point ? (
            <UnderFinger point={point} />
          ) : (
            <p className="num text-sm text-mute">
              {msg('chart.tapTheMapTo', { soundings: grouped(chart.soundings), deepest: depthText(chart.deepest, unit) })}
              {Math.abs(day.level) >= 0.05 &&
                ` ${msg('chart.atLevel', { level: Math.abs(day.level), side: day.level > 0 ? 'above' : 'below' })}`}
              {chart.highest > 0.05 && ` ${msg('chart.hatchedIsDry')}`}
            </p>
          )}
          {!chosen && (
            <div className="mt-2 border-t border-line pt-2 max-md:hidden">
              <PositionField
                label={msg('chart.lookAtAPosition')}
                button={msg('chart.lookThere')}
                onPosition={(position) => {
                  const p = metricPlane(chart.epsg).toMetric(position);
                  setPicked(p);
                  setGoTo(p);
                }}
              />
            </div>
          )}
        </section>
      </div>
      <div className="absolute right-3 top-3 flex flex-col items-end gap-2 max-md:hidden">
        <button
          type="button"
          aria-expanded={showLayers}
          className="btn touch-target border-line bg-surface"
          onClick={() => setShowLayers(!showLayers)}
        >
          <Layers size={20} aria-hidden /> {msg('chart.layers')}
        </button>
        {showLayers && <div className="w-80 rounded-box border border-line bg-surface px-3 py-2">{layersPanel}</div>}
      </div>
    </WaterMap>
  );
}

const NO_CONTOURS: never[] = [];

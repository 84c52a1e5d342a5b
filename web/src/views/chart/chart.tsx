import { Layers } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { bandShare } from '@restless-shoal/core/chart';
import { metricPlane, type Point } from '@restless-shoal/core/geo';
import { oxygenHoldsTo } from '@restless-shoal/core/lake';
import { depthWindow } from '@restless-shoal/core/species';
import { useContacts } from '../../api/queries';
import { Column } from '../../parts/column';
import { DepthBand } from '../../parts/depth-band';
import { grouped, percent } from '../../parts/format';
import { NoChart } from '../../parts/no-chart';
import { PositionField } from '../../parts/position-field';
import { WaterMap, type MapMark } from '../../parts/water-map';
import { useWaterState } from '../../state/water';
import { useContours } from '../../workers/use-contours';
import { useForecastWorker } from '../../workers/use-forecast-worker';

/** What lies under the finger, as a Column. */
function UnderFinger({ point }: { point: Point }) {
  const { chart, day, species } = useWaterState();
  const depth = chart!.depth.at(point[0], point[1]);
  const hardness = chart!.hardness.at(point[0], point[1]);
  const position = metricPlane(chart!.epsg).toLatLon(point);
  const oxygen = oxygenHoldsTo(day.column.samples, species.leastOxygen);
  const max = Math.max(6, Math.ceil(chart!.deepest));
  return (
    <div className="flex gap-3" data-testid="under-finger">
      {Number.isNaN(depth) ? (
        <p className="text-mute">Land, or not sounded.</p>
      ) : (
        <>
          <Column
            width={46}
            height={110}
            max={max}
            bottom={depth}
            hardness={Number.isNaN(hardness) ? null : hardness}
            thermocline={day.column.thermocline}
            oxygenTo={oxygen}
          />
          <div>
            <p className="num text-2xl font-bold">{depth.toFixed(1)} m</p>
            <p className="text-sm text-mute">
              {Number.isNaN(hardness)
                ? 'hardness not known'
                : `${hardness > 0.6 ? 'hard' : hardness < 0.35 ? 'soft' : 'firm'} bottom, ${hardness.toFixed(2)}`}
            </p>
          </div>
        </>
      )}
      <p className="num ml-auto self-end text-xs text-mute">
        {position.latitude.toFixed(5)}
        <br />
        {position.longitude.toFixed(5)}
      </p>
    </div>
  );
}

/** A depth band from the address, as in ?band=4.6-7.0; null when there is none that makes sense. */
function bandIn(text: string | null): [number, number] | null {
  const match = /^(\d+(?:\.\d+)?)-(\d+(?:\.\d+)?)$/.exec(text ?? '');
  return match && Number(match[1]) < Number(match[2]) ? [Number(match[1]), Number(match[2])] : null;
}

/** The water as its owner sounded it. */
export function ChartView() {
  const state = useWaterState();
  const { chart, chartBytes, day, conditions, species, water } = state;
  const worker = useForecastWorker(chartBytes);
  const contours = useContours(worker);
  const contacts = useContacts(water.id);
  const [search] = useSearchParams();
  const asked = bandIn(search.get('band'));
  const [shaded, setShaded] = useState(asked !== null);
  const [showMarks, setShowMarks] = useState(true);
  const [hover, setHover] = useState<Point | null>(null);
  const [picked, setPicked] = useState<Point | null>(null);
  const [goTo, setGoTo] = useState<Point | null>(null);
  const window = useMemo(
    () =>
      depthWindow(species, {
        column: day.column,
        secchi: conditions.secchi,
        maxDepth: day.maxDepth,
        sunHeight: day.sunHeight,
        rule: day.rule,
      }),
    [species, day, conditions.secchi],
  );
  const max = Math.max(6, Math.ceil(chart?.deepest ?? 10));
  const whole = (top: number, bottom: number): [number, number] => [
    Math.floor(top * 2) / 2,
    Math.max(Math.ceil(bottom * 2) / 2, Math.floor(top * 2) / 2 + 0.5),
  ];
  const [band, setBand] = useState<[number, number]>(() => asked ?? whole(window.top, window.bottom));
  const share = useMemo(() => (chart ? bandShare(chart.cells, band[0], band[1]) : null), [chart, band]);
  const marks = useMemo((): MapMark[] => {
    if (!chart || !contacts.data || !showMarks) return [];
    const plane = metricPlane(chart.epsg);
    return contacts.data.map((c) => {
      const [x, y] = plane.toMetric(c);
      return { id: c.id, kind: c.kind, x, y };
    });
  }, [chart, contacts.data, showMarks]);

  if (!chart) return <NoChart />;
  return (
    <WaterMap
      label={`Chart of ${water.name}`}
      contours={contours}
      band={shaded ? band : null}
      marks={marks}
      point={picked}
      goTo={goTo}
      onHover={setHover}
      onPick={(p) => setPicked(p)}
      leftRoom={340}
    >
      <section
        aria-label="Depth band"
        className="absolute left-3 top-3 w-[min(21rem,calc(100%-1.5rem))] rounded-box border border-line bg-surface p-3"
      >
        <label className="flex min-h-11 cursor-pointer items-center gap-3">
          <input type="checkbox" className="toggle" checked={shaded} onChange={(e) => setShaded(e.target.checked)} />
          <span className="font-bold">Shade a depth band</span>
        </label>
        {shaded && (
          <>
            <p className="num flex justify-between text-lg font-bold">
              <span>
                {band[0].toFixed(1)} – {band[1].toFixed(1)} m
              </span>
              <span data-testid="share">{percent(share!.bottom)} of the water</span>
            </p>
            <DepthBand max={max} band={band} onChange={setBand} />
            <p className="text-sm text-mute">
              Pale: a further {percent(share!.over)} where fish can hang at that depth over a deeper bottom. {percent(share!.out)} is out.
            </p>
            <button
              type="button"
              className="btn mt-2 h-auto min-h-11 w-full justify-start py-1 text-left leading-tight"
              onClick={() => setBand(whole(window.top, window.bottom))}
            >
              Depths that can hold {species.name} today: {window.empty ? 'none' : `${window.top.toFixed(1)}–${window.bottom.toFixed(1)} m`}
            </button>
          </>
        )}
      </section>
      <section
        aria-label="What lies there"
        className="absolute bottom-3 left-3 w-[min(21rem,calc(100%-5rem))] rounded-box border border-line bg-surface p-3"
      >
        {(hover ?? picked) ? (
          <UnderFinger point={(hover ?? picked)!} />
        ) : (
          <p className="text-sm text-mute">
            Point at the water to see its column. {grouped(chart.soundings)} soundings, deepest {chart.deepest.toFixed(1)} m.
          </p>
        )}
        <div className="mt-2 border-t border-line pt-2 max-md:hidden">
          <PositionField
            label="Look at a position"
            button="Look there"
            onPosition={(position) => {
              const p = metricPlane(chart.epsg).toMetric(position);
              setPicked(p);
              setGoTo(p);
            }}
          />
        </div>
      </section>
      <div className="absolute right-3 top-3 flex flex-col items-end gap-2 max-md:top-auto max-md:bottom-44">
        <button
          type="button"
          aria-pressed={showMarks}
          className={`btn touch-target border-line ${showMarks ? 'bg-surface font-bold' : 'bg-ground text-mute'}`}
          onClick={() => setShowMarks(!showMarks)}
        >
          <Layers size={20} aria-hidden /> {grouped(contacts.data?.length ?? 0)} marks
        </button>
      </div>
      <p className="pointer-events-none absolute bottom-3 left-1/2 -translate-x-1/2 rounded bg-surface/85 px-2 py-0.5 text-xs font-semibold text-warn max-md:hidden">
        Not for navigation
      </p>
    </WaterMap>
  );
}

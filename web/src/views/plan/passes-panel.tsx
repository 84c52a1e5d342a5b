import { Download, PencilLine, Trash2 } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import type { Remote } from 'comlink';
import type { ChartFeature } from '@restless-shoal/core/chart';
import { gpxOf } from '@restless-shoal/core/formats';
import type { Point } from '@restless-shoal/core/geo';
import {
  USUAL_DETECTION,
  type BoatOnWater,
  type PassageArea,
  type PassDetection,
  type PatchWish,
  type SearchPasses,
  type SearchView,
} from '@restless-shoal/core/passage';
import type { WaterMapController } from '../../parts/water-map';
import { saveFile } from '../../parts/save-file';
import { Segments } from '../../parts/segments';
import { Slider } from '../bench/slider';
import { useRig } from '../../state/rig';
import { useAnswer, useOpenLog } from '../../workers/use-patterns-worker';
import { useWaterState } from '../../state/water';
import { formatArea, formatDepth, formatLength, formatSpeed, percent, plan as msg, term } from '../../words';
import type { PlanWorker } from '../../workers/plan.worker';
import { Trolling } from './trolling';
import { toDegrees } from './use-plan-day';

type Where = 'band' | 'drawn' | 'shape' | 'contacts';

/** Search passes over a piece of water: which, how seen, how long, and what they would show. */
export function PassesPanel({
  worker,
  water,
  map,
  start,
  contacts,
  scouting,
  onPasses,
  onUse,
}: {
  worker: Remote<PlanWorker> | null;
  water: BoatOnWater | null;
  map: WaterMapController | null;
  start: Point | null;
  /** Where fish were seen today, m. */
  contacts: Point[];
  /** Minutes that the day has for them; 0: not said. */
  scouting: number;
  onPasses: (passes: SearchPasses | null) => void;
  onUse: (passes: SearchPasses, view: SearchView) => void;
}) {
  const { chart, ground, day, water: shown } = useWaterState();
  const rig = useRig();
  const [where, setWhere] = useState<Where>(chart ? 'band' : 'drawn');
  const deepest = Math.max(2, chart?.deepest ?? shown.deepest_m ?? 10);
  const [top, setTop] = useState(Math.min(3, deepest - 1));
  const [bottom, setBottom] = useState(Math.min(6, deepest));
  const [drawn, setDrawn] = useState<Point[] | null>(null);
  const [round, setRound] = useState(0);
  const [shape, setShape] = useState<number>(0);
  const [view, setView] = useState<SearchView['view']>('side-scan');
  const [range, setRange] = useState(25);
  const [pattern, setPattern] = useState<'along' | 'across'>('along');
  const [stage, setStage] = useState<'close' | 'wide'>('close');
  const [minutes, setMinutes] = useState(scouting || 60);
  const [count, setCount] = useState(3);
  const [answer, setAnswer] = useState<SearchPasses | null>(null);
  const [failed, setFailed] = useState<Error | null>(null);
  const shapes = useMemo(() => (chart?.features ?? []).slice(0, 60), [chart]);

  useEffect(() => {
    if (!map || where !== 'drawn') return;
    setDrawn(null);
    map.drawing.start('Polygon', (points, done) => done && setDrawn(points));
    return () => map.drawing.stop();
  }, [map, where, round]);

  const patch = useMemo((): PatchWish | null => {
    if (where === 'band') return { band: [Math.min(top, bottom), Math.max(top, bottom)] };
    if (where === 'drawn') return drawn && drawn.length > 2 ? { areas: [{ type: 'Polygon', points: drawn }] } : null;
    if (where === 'contacts') return contacts.length ? { round: { points: contacts, radius: 80 } } : null;
    const chosen = shapes[shape] as ChartFeature | undefined;
    return chosen ? { areas: [areaOf(chosen)] } : null;
  }, [where, top, bottom, drawn, shapes, shape, contacts]);

  const log = useOpenLog();
  const { answer: views } = useAnswer(log, 'views', (ask) => ask.views());
  const learned = views?.find((v) => v.view === view && v.sigma !== null) ?? null;
  const detection = useMemo(
    (): PassDetection =>
      learned ? { ...USUAL_DETECTION, sigma: learned.sigma, withDepth: learned.withDepth, depth: learned.depth } : USUAL_DETECTION,
    [learned],
  );
  const searching = useMemo(
    (): SearchView => ({ view, range, beam: 20, transducerDepth: rig.transducerDepth }),
    [view, range, rig.transducerDepth],
  );
  useEffect(() => {
    if (!worker || !water || !patch) {
      setAnswer(null);
      onPasses(null);
      return;
    }
    let gone = false;
    const timer = setTimeout(() => {
      worker
        .passes({
          water,
          level: day.level,
          patch,
          wish: { view: searching, pattern, stage, minutes: minutes >= 240 ? null : minutes, start, sought: { count }, detection },
        })
        .then(
          (passes) => {
            if (gone) return;
            setAnswer(passes);
            setFailed(null);
            onPasses(passes);
          },
          (error: Error) => {
            if (!gone) setFailed(error);
          },
        );
    }, 100);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [worker, water, patch, searching, pattern, stage, minutes, count, detection, day.level, start, onPasses]);

  const gpx = (): void => {
    if (!answer || !ground) return;
    const points = answer.passes.flatMap((line) => toDegrees(ground.epsg, line)).map(([longitude, latitude]) => ({ latitude, longitude }));
    saveFile('search-passes.gpx', gpxOf(msg('passes.gpxTitle', { water: shown.name }), [], [{ name: msg('passes.gpxTitle', { water: shown.name }), points }]), 'application/gpx+xml'); // prettier-ignore
  };
  return (
    <div className="space-y-2 p-3">
      {failed && (
        <p role="alert" className="text-warn">
          {failed.message}
        </p>
      )}
      {answer && (
        <section aria-label={msg('passes.result')} className="rounded-box border border-line p-3" data-testid="passes">
          {answer.trouble ? (
            <p className="text-warn">{msg(`passes.trouble.${answer.trouble}`)}</p>
          ) : (
            <>
              <p className="text-lg font-bold">{msg('passes.chance', { count, chance: percent(answer.chance) })}</p>
              <p className="num text-sm">
                {msg('passes.summary', {
                  passes: answer.passes.length,
                  length: formatLength(answer.metres),
                  minutes: Math.round(answer.seconds / 60),
                  area: formatArea(answer.hectares * 10_000),
                  seen: percent(answer.seen),
                })}
                {answer.leftOut > 0 && ` ${msg('passes.leftOut', { leftOut: answer.leftOut })}`}
              </p>
              <p className="num mt-1 text-[13px] text-mute">
                {msg('passes.spacing', { spacing: formatLength(answer.spacing.metres), speed: formatSpeed(water?.boat.search ?? 2) })}{' '}
                {answer.swaths
                  .filter(({ depth }, i, all) => Number.isFinite(depth) && (i === 0 || depth > all[i - 1].depth + 0.2))
                  .map(({ depth, swath }) => msg('passes.swath', { depth, far: formatLength(Math.round(swath.far)), near: swath.near }))
                  .join('; ')}
                {'. '}
                {learned && msg('passes.learned', { within: formatLength(Math.round(learned.sigma!)), marks: learned.n })}{' '}
                {view === 'side-scan' && (answer.spacing.stripSeen ? msg('passes.stripSeen') : msg('passes.stripUnseen'))}
              </p>
              <div className="mt-2 flex flex-wrap gap-2">
                <button type="button" className="btn btn-primary touch-target" onClick={() => onUse(answer, searching)}>
                  {msg('passes.use')}
                </button>
                <button type="button" className="btn touch-target" onClick={gpx}>
                  <Download size={18} aria-hidden /> GPX
                </button>
              </div>
            </>
          )}
        </section>
      )}
      <Segments<Where>
        label={msg('passes.where')}
        value={where}
        options={[
          ['band', msg('passes.band')],
          ['drawn', msg('passes.drawn')],
          ['shape', msg('passes.shape')],
          ['contacts', msg('passes.contacts')],
        ]}
        onChange={setWhere}
      />
      {where === 'band' && (
        <>
          <Slider label={msg('passes.from')} words={formatDepth(top)} value={top} min={0} max={deepest} step={0.5} onChange={setTop} />
          <Slider
            label={msg('passes.to')}
            words={formatDepth(bottom)}
            value={bottom}
            min={0}
            max={deepest}
            step={0.5}
            onChange={setBottom}
          />
        </>
      )}
      {where === 'drawn' && (
        <p className="flex items-center gap-2 text-sm text-mute">
          <PencilLine size={18} aria-hidden /> {drawn ? msg('passes.drawnDone') : msg('passes.drawIt')}
          {drawn && (
            <button type="button" className="btn btn-sm touch-target ml-auto" onClick={() => setRound(round + 1)}>
              <Trash2 size={16} aria-hidden /> {msg('passes.drawAnew')}
            </button>
          )}
        </p>
      )}
      {where === 'shape' &&
        (shapes.length ? (
          <select
            className="select h-11 w-full"
            aria-label={msg('passes.whichShape')}
            value={shape}
            onChange={(e) => setShape(Number(e.target.value))}
          >
            {shapes.map((f, i) => (
              <option key={i} value={i}>
                {term(f.kind)}, {formatDepth(f.depth)}, {formatLength(f.size)}
              </option>
            ))}
          </select>
        ) : (
          <p className="text-sm text-mute">{msg('passes.noShapes')}</p>
        ))}
      {where === 'contacts' && !contacts.length && <p className="text-sm text-mute">{msg('passes.noContacts')}</p>}
      <Segments<SearchView['view']>
        label={msg('passes.view')}
        value={view}
        options={[
          ['side-scan', msg('passes.sideScan')],
          ['sounder', msg('passes.sounder')],
          ['forward-facing', msg('passes.forward')],
        ]}
        onChange={setView}
      />
      {view !== 'sounder' && (
        <Slider label={msg('passes.range')} words={formatLength(range)} value={range} min={10} max={60} step={1} onChange={setRange} />
      )}
      <Segments<'along' | 'across'>
        label={msg('passes.pattern')}
        value={pattern}
        options={[
          ['along', msg('passes.along')],
          ['across', msg('passes.across')],
        ]}
        onChange={setPattern}
      />
      <Segments<'close' | 'wide'>
        label={msg('passes.stage')}
        value={stage}
        options={[
          ['wide', msg('passes.wide')],
          ['close', msg('passes.close')],
        ]}
        onChange={setStage}
      />
      <Slider
        label={msg('passes.time')}
        words={minutes >= 240 ? msg('passes.asLong') : msg('stopList.minutes', { minutes })}
        value={minutes}
        min={10}
        max={240}
        step={5}
        onChange={setMinutes}
      />
      <Slider label={msg('passes.pod')} words={msg('passes.fish', { count })} value={count} min={1} max={12} step={1} onChange={setCount} />
      <Trolling />
    </div>
  );
}

/** A shape of the chart as something to search. */
const areaOf = ({ edge }: ChartFeature): PassageArea =>
  edge.type === 'area' ? { type: 'Polygon', points: edge.ring } : { type: 'LineString', points: edge.points };

import { ImagePlus, Minus, Plus } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { isScreen, type Corners, type PatchContrast, type Pixel } from '@restless-shoal/core/sonar';
import { METRES_PER } from '../../parts/format';
import { readNumber } from '../../parts/read-number';
import { Segments } from '../../parts/segments';
import { told } from '../../parts/told';
import { useRig } from '../../state/rig';
import { useUnits } from '../../state/units';
import type { ShownPicture } from '../../workers/picture.worker';
import { usePictureWorker } from '../../workers/use-picture';
import { bench as msg, capital, term } from '../../words';
import { PictureList, Reading } from './picture-list';
import { PictureSave } from './picture-save';
import {
  cornersWithin,
  middleOf,
  PICTURE_VIEWS,
  readAll,
  SCALE_STEPS,
  scaledBy,
  TYPED,
  type PictureTarget,
  type PictureView as View,
  type ScaleStep,
  type ScaleTouches,
} from './picture-state';
import { PictureView } from './picture-view';

const KINDS = ['fish', 'bait', 'cover', 'bottom', 'thermocline'] as const;
type Tool = ScaleStep | (typeof KINDS)[number] | 'shadow' | 'school' | 'patch' | 'reference' | 'legend';
const ZOOMS = [1, 2, 4];
/** Half of a patch of bottom that is compared, as share of the picture's width. */
const PATCH = 0.02;

/** A picture of any screen: straightened, scaled, its targets read, and put into the log. */
export function PictureReader() {
  const worker = usePictureWorker();
  const rig = useRig();
  const { depth: unit } = useUnits();
  const [file, setFile] = useState<File | null>(null);
  const [picture, setPicture] = useState<ShownPicture | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [corners, setCorners] = useState<Corners | null>(null);
  const [zoom, setZoom] = useState(1);
  // A touch is as exact on the screen, whatever the picture's own px.
  const [scale, setScale] = useState(1);
  const [view, setView] = useState<View>('sounder');
  const [touches, setTouches] = useState<ScaleTouches>({});
  const [typed, setTyped] = useState<Partial<Record<ScaleStep, string>>>({});
  const [tool, setTool] = useState<Tool>('depthA');
  const [targets, setTargets] = useState<PictureTarget[]>([]);
  const [legend, setLegend] = useState<Pixel[]>([]);
  const [patches, setPatches] = useState<{ reference: Pixel | null; patch: Pixel | null; said: PatchContrast | null }>(NO_PATCHES);
  const [saved, setSaved] = useState<{ trip: string; n: number } | null>(null);
  const forget = (): void => {
    setSaved(null);
    setTouches({});
    setTyped({});
    setTargets([]);
    setLegend([]);
    setPatches(NO_PATCHES);
    setTool(SCALE_STEPS[view][0]);
    setZoom(1);
  };
  /** Does something of the worker's, saying when it fails. */
  const work = async (what: () => Promise<void>): Promise<void> => {
    setBusy(true);
    setFailed(null);
    try {
      await what();
    } catch (error) {
      setFailed(told(error));
    } finally {
      setBusy(false);
    }
  };
  const open = (next: File): Promise<void> =>
    work(async () => {
      const shown = await worker!.open(next);
      if (typeof shown === 'string') return setFailed(msg(`picture.trouble.${shown}`, { name: next.name }));
      forget();
      setCorners(null);
      setFile(next);
      setPicture(shown);
    });
  const straighten = (to: Corners | null): Promise<void> =>
    work(async () => {
      if (to && !isScreen(to)) return setFailed(msg('picture.noScreen'));
      const shown = await worker!.straighten(to);
      forget();
      setCorners(null);
      setPicture(shown);
    });
  const scaled = scaledBy(view, touches);
  const picked = 'view' in scaled ? scaled : null;
  const readings = picked ? readAll(picked, targets, scale, rig.transducerDepth) : [];
  const [last, lastReading] = [targets.at(-1), readings.at(-1)];
  const steps: readonly ScaleStep[] = SCALE_STEPS[view];

  const changeView = (next: View): void => {
    setView(next);
    setTouches({});
    setTyped({});
    setTargets([]);
    setTool(SCALE_STEPS[next][0]);
  };
  const touch = (at: Pixel): void => {
    if ((steps as readonly string[]).includes(tool)) {
      const step = tool as ScaleStep;
      setTouches((was) => ({ ...was, [step]: { at, value: was[step]?.value ?? null } }));
      const next = steps.find((s) => s !== step && !touches[s]);
      if (next) setTool(next);
      else setTool('fish');
    } else if (tool === 'shadow') {
      setTargets((was) => was.map((t, k) => (k === was.length - 1 ? { ...t, shadow: at } : t)));
      setTool('fish');
    } else if (tool === 'legend') {
      const next = [...legend, at];
      setLegend(next);
      if (next.length > 1) void work(() => worker!.legend(next));
    } else if (tool === 'reference' || tool === 'patch') {
      const next = { ...patches, [tool]: at, said: null };
      setPatches(next);
      if (next.reference && next.patch)
        void work(async () => {
          const said = await worker!.contrast(next.patch!, next.reference!, PATCH * picture!.width);
          setPatches({ ...next, said });
        });
      else setTool(tool === 'reference' ? 'patch' : 'reference');
    } else if ((KINDS as readonly string[]).includes(tool)) {
      const kind = tool as PictureTarget['kind'];
      setTargets((was) => [...was, { id: 1 + (was.at(-1)?.id ?? 0), kind, at, shadow: null, count: 1, outline: null, counted: null }]);
    }
  };
  const paint = (outline: Pixel[]): Promise<void> =>
    work(async () => {
      const counted = await worker!.count(outline);
      if (!counted) return;
      const target = { kind: 'fish' as const, at: middleOf(outline), shadow: null, count: Math.max(1, counted.count), outline, counted };
      setTargets((was) => [...was, { ...target, id: 1 + (was.at(-1)?.id ?? 0) }]);
    });

  const chooser = (words: string): React.ReactElement => (
    <label className={`btn ${picture ? '' : 'btn-primary'} h-12 w-full focus-within:outline-2 focus-within:outline-ink`}>
      <ImagePlus size={20} aria-hidden /> {words}
      <input
        type="file"
        accept="image/png,image/jpeg,image/webp"
        className="sr-only"
        disabled={!worker || busy}
        onChange={(e) => {
          const [next] = e.target.files ?? [];
          if (next) void open(next);
          e.target.value = '';
        }}
      />
    </label>
  );
  if (!picture)
    return (
      <div className="mx-auto max-w-xl">
        <p className="mb-3">{msg('picture.whatItIs')}</p>
        {chooser(busy ? msg('picture.opening') : msg('picture.choose'))}
        {failed && (
          <p role="alert" className="mt-3 text-warn">
            {failed}
          </p>
        )}
      </div>
    );
  const dot = 10 * scale;
  const press = (name: Tool, words: string): React.ReactElement => (
    <button
      type="button"
      aria-pressed={tool === name}
      className={`btn touch-target px-3 ${tool === name ? 'btn-primary' : ''}`}
      onClick={() => setTool(name)}
    >
      {words}
    </button>
  );
  const typing = (step: ScaleStep): React.ReactElement => (
    <input
      inputMode="decimal"
      aria-label={msg(`picture.value.${step}`, { unit })}
      placeholder={unit}
      className="input num h-11 w-20"
      value={typed[step] ?? ''}
      onChange={(e) => {
        const text = e.target.value;
        const value = readNumber(text);
        setTyped((was) => ({ ...was, [step]: text }));
        setTouches((was) => ({
          ...was,
          [step]: { at: was[step]?.at ?? { x: NaN, y: NaN }, value: value >= 0 ? value * METRES_PER[unit] : null },
        }));
      }}
    />
  );
  return (
    <div className="grid gap-5 lg:grid-cols-[minmax(0,1fr)_22rem]">
      <div className="max-lg:sticky max-lg:-top-3 max-lg:z-10 max-lg:bg-base-200">
        <PictureView
          picture={picture}
          zoom={zoom}
          scale={scale}
          onScale={setScale}
          corners={corners}
          painting={tool === 'school'}
          onTouch={touch}
          onPaint={(outline) => void paint(outline)}
          onCorners={setCorners}
        >
          {steps.map((step) => {
            const at = touches[step]?.at;
            if (!at || Number.isNaN(at.x)) return null;
            const across = step === 'depthA' || step === 'depthB';
            return (
              <line
                key={step}
                {...(across ? { x1: 0, x2: picture.width, y1: at.y, y2: at.y } : { x1: at.x, x2: at.x, y1: 0, y2: picture.height })}
                stroke="var(--act)"
                strokeWidth={dot / 4}
                strokeDasharray={`${dot} ${dot / 2}`}
              />
            );
          })}
          {targets.map((t, k) => (
            <g key={t.id} stroke="var(--surface)" strokeWidth={dot / 6}>
              {t.outline && (
                <polygon points={t.outline.map((p) => `${p.x},${p.y}`).join(' ')} fill="none" stroke="var(--fish)" strokeWidth={dot / 3} />
              )}
              {t.counted?.places.map((p, j) => (
                <circle key={j} cx={p.x} cy={p.y} r={Math.max(dot / 2, t.counted!.size / 2)} fill="none" stroke="var(--fish)" />
              ))}
              {t.shadow && <line x1={t.at.x} y1={t.at.y} x2={t.shadow.x} y2={t.shadow.y} stroke="var(--fish)" strokeWidth={dot / 4} />}
              <circle cx={t.at.x} cy={t.at.y} r={dot} fill="var(--fish)" />
              <text
                x={t.at.x}
                y={t.at.y + dot / 2.4}
                fontSize={1.3 * dot}
                textAnchor="middle"
                fill="var(--surface)"
                stroke="none"
                fontWeight={700}
              >
                {k + 1}
              </text>
            </g>
          ))}
          {legend.map((p, k) => (
            <circle key={k} cx={p.x} cy={p.y} r={dot / 1.5} fill="none" stroke="var(--warn)" strokeWidth={dot / 4} />
          ))}
          {(['reference', 'patch'] as const).map((name) => {
            const p = patches[name];
            const half = PATCH * picture.width;
            return p && <rect key={name} x={p.x - half} y={p.y - half} width={2 * half} height={2 * half} fill="none" stroke={name === 'patch' ? 'var(--fish)' : 'var(--act)'} strokeWidth={dot / 3} />; // prettier-ignore
          })}
        </PictureView>
        <div className="mt-2 flex flex-wrap items-center gap-2">
          <button
            type="button"
            className="btn touch-target px-3"
            aria-label={msg('picture.farther')}
            disabled={zoom === ZOOMS[0]}
            onClick={() => setZoom(zoom / 2)}
          >
            <Minus size={20} aria-hidden />
          </button>
          <button
            type="button"
            className="btn touch-target px-3"
            aria-label={msg('picture.closer')}
            disabled={zoom === ZOOMS.at(-1)}
            onClick={() => setZoom(zoom * 2)}
          >
            <Plus size={20} aria-hidden />
          </button>
          <span className="flex-1 font-semibold" role="status" data-testid="do-next">
            {corners ? msg('picture.dragCorners') : busy ? msg('picture.working') : msg(`picture.next.${tool}`)}
          </span>
        </div>
        {/* On a phone the list lies far below. */}
        {last && (
          <div className="flex gap-2 border-t border-line pt-1 lg:hidden">
            <b className="num">
              {targets.length} {capital(term(last.kind))}
              {last.count > 1 && ` × ${last.count}`}
            </b>
            {lastReading && <Reading reading={lastReading} />}
          </div>
        )}
        {failed && (
          <p role="alert" className="mt-2 text-warn">
            {failed}
          </p>
        )}
      </div>
      <div className="flex flex-col gap-4">
        <section aria-label={msg('picture.straighten')} className="flex flex-wrap gap-2">
          {corners ? (
            <>
              <button type="button" className="btn btn-primary touch-target" onClick={() => void straighten(corners)}>
                {msg('picture.cutHere')}
              </button>
              <button type="button" className="btn touch-target" onClick={() => setCorners(null)}>
                {msg('picture.leaveIt')}
              </button>
            </>
          ) : (
            <>
              <button type="button" className="btn touch-target" onClick={() => setCorners(cornersWithin(picture.width, picture.height))}>
                {msg('picture.straighten')}
              </button>
              <button type="button" className="btn touch-target" onClick={() => void straighten(null)}>
                {msg('picture.allOfIt')}
              </button>
            </>
          )}
        </section>
        <section aria-label={msg('picture.scale')}>
          <h2 className="text-lg font-bold">{msg('picture.scale')}</h2>
          <Segments
            label={msg('picture.shows')}
            value={view}
            options={PICTURE_VIEWS.map((v) => [v, capital(term(v))] as const)}
            onChange={changeView}
          />
          <ul className="mt-2 flex flex-col gap-2">
            {steps.map((step) => (
              <li key={step} className="flex items-center gap-2">
                <button
                  type="button"
                  aria-pressed={tool === step}
                  className={`btn h-11 flex-1 justify-start px-3 text-left ${tool === step ? 'btn-primary' : ''}`}
                  onClick={() => setTool(step)}
                >
                  {touches[step] && !Number.isNaN(touches[step].at.x) ? '✓ ' : ''}
                  {msg(`picture.step.${step}`)}
                </button>
                {TYPED.has(step) && typing(step)}
              </li>
            ))}
          </ul>
          {'trouble' in scaled && (
            <p role="alert" className="mt-1 text-warn">
              {msg(`picture.scaleTrouble.${scaled.trouble}`)}
            </p>
          )}
        </section>
        <section aria-label={msg('picture.targets')}>
          <h2 className="text-lg font-bold">{msg('picture.targets')}</h2>
          <div className="mt-1 flex flex-wrap gap-1.5">
            {KINDS.map((kind) => press(kind, capital(term(kind))))}
            {press('school', msg('picture.school'))}
            {view === 'side-scan' && targets.length > 0 && press('shadow', msg('picture.itsShadow'))}
            {press('reference', msg('picture.compare'))}
            {press('legend', msg('picture.legend'))}
          </div>
          {legend.length > 0 && (
            <p className="mt-2 flex items-center gap-2 text-sm text-mute">
              {msg('picture.legendOf', { n: legend.length })}
              <button
                type="button"
                className="btn btn-sm touch-target"
                onClick={() => {
                  setLegend([]);
                  void work(() => worker!.legend([]));
                }}
              >
                {msg('picture.byBrightness')}
              </button>
            </p>
          )}
          {patches.said && (
            <p className="num mt-2" role="status">
              {msg(`picture.contrast.${patches.said.told}`, {
                difference: Math.abs(Math.round(100 * patches.said.difference)),
                error: Math.max(1, Math.round(100 * patches.said.error)),
              })}
            </p>
          )}
          {!picked && targets.length > 0 && <p className="mt-2 text-warn">{msg('picture.scaleFirst')}</p>}
          <PictureList
            view={view}
            targets={targets}
            readings={readings}
            onCount={(id, count) => setTargets((was) => was.map((t) => (t.id === id ? { ...t, count } : t)))}
            onRemove={(id) => setTargets((was) => was.filter((t) => t.id !== id))}
          />
        </section>
        {picked && targets.length > 0 && file && (
          <PictureSave
            file={file}
            view={view}
            scale={picked}
            targets={targets}
            readings={readings}
            onSaved={(now) => {
              setTargets([]);
              setSaved(now);
            }}
          />
        )}
        {saved && !targets.length && (
          <p role="status" className="mt-2">
            {msg('picture.saved', { n: saved.n })}{' '}
            <Link className="link" to={`/logbook/${saved.trip}`}>
              {msg('picture.openTrip')}
            </Link>
          </p>
        )}
        {chooser(msg('picture.another'))}
      </div>
    </div>
  );
}

const NO_PATCHES = { reference: null, patch: null, said: null };

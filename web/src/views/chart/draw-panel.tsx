import { useQueryClient } from '@tanstack/react-query';
import { LocateFixed, Trash2, Undo2 } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { Body } from '@restless-shoal/core/contract';
import { metricPlane, ringsToOutline, type LatLon, type Point, type Rings } from '@restless-shoal/core/geo';
import { ask } from '../../api/client';
import type { Water } from '../../api/queries';
import { readNumber } from '../../parts/read-number';
import { Segments } from '../../parts/segments';
import type { DrawKind, WaterMapController } from '../../parts/water-map';
import { useWaterState } from '../../state/water';
import { whereIsThisDevice } from '../../state/where-is-this-device';
import { parseMeasure, type UnitSystem } from '@restless-shoal/core/units';
import { useUnits } from '../../state/units';
import { chart as msg, formatSpeed } from '../../words';
import { told } from '../../parts/told';

type Cover = Body<'POST /waters/:water/cover'>;
interface Thing {
  label: string;
  kind: Cover['kind'];
  cover: Cover['cover'];
  /** How it can be drawn, the usual way first. */
  as: DrawKind[];
  height?: boolean;
  /** Whether it has a speed limit. */
  limit?: boolean;
  /** Whether it has to have a name. */
  named?: boolean;
}

/** What can be placed by hand. */
const THINGS: Thing[] = [
  { label: msg('drawPanel.hazard'), kind: 'hazard', cover: null, as: ['Point', 'LineString', 'Polygon'] },
  { label: msg('drawPanel.timber'), kind: 'cover', cover: 'timber', as: ['Point', 'LineString', 'Polygon'], height: true },
  { label: msg('drawPanel.brush'), kind: 'cover', cover: 'brush', as: ['Point', 'LineString', 'Polygon'], height: true },
  { label: msg('drawPanel.rock'), kind: 'cover', cover: 'rock', as: ['Point', 'LineString', 'Polygon'], height: true },
  { label: msg('drawPanel.reef'), kind: 'cover', cover: 'reef', as: ['Polygon', 'LineString', 'Point'], height: true },
  { label: msg('drawPanel.wreck'), kind: 'cover', cover: 'wreck', as: ['Point', 'LineString', 'Polygon'], height: true },
  { label: msg('drawPanel.dock'), kind: 'cover', cover: 'dock', as: ['Polygon', 'LineString', 'Point'] },
  { label: msg('drawPanel.weed'), kind: 'weed', cover: 'weed', as: ['Polygon', 'LineString', 'Point'], height: true },
  { label: msg('drawPanel.hardPatchOrEdge'), kind: 'hard', cover: null, as: ['Polygon', 'LineString', 'Point'] },
  { label: msg('drawPanel.access'), kind: 'access', cover: null, as: ['Point'] },
  { label: msg('drawPanel.speedZone'), kind: 'zone', cover: null, as: ['Polygon'], limit: true },
  { label: msg('drawPanel.placeToRemember'), kind: 'mark', cover: null, as: ['Point'] },
  { label: msg('drawPanel.areaForOthers'), kind: 'area', cover: null, as: ['Polygon'], named: true },
];
const AS: Record<DrawKind, string> = { Point: msg('drawPanel.spot'), LineString: msg('drawPanel.line'), Polygon: msg('drawPanel.area') };
const LEAST: Record<DrawKind, number> = { Point: 1, LineString: 2, Polygon: 3 };

/** A speed limit as it was typed, m/s. @throws when it is none */
function limitOf(text: string, unit: UnitSystem['speed']): number {
  let limit = 0;
  try {
    limit = parseMeasure(text, 'speed', unit);
  } catch {
    // Said below.
  }
  if (!(limit >= 0.1 && limit <= 100)) throw new Error(msg('drawPanel.limitMustBe'));
  return limit;
}

const degrees = ({ latitude, longitude }: LatLon): [number, number] => [Number(longitude.toFixed(7)), Number(latitude.toFixed(7))];

const geometryOf = (epsg: number, as: DrawKind, points: Point[]): Cover['geometry'] => {
  const plane = metricPlane(epsg);
  const line = points.map((p) => degrees(plane.toLatLon(p)));
  if (as === 'Point') return { type: 'Point', coordinates: line[0] };
  return as === 'LineString' ? { type: 'LineString', coordinates: line } : { type: 'Polygon', coordinates: [[...line, line[0]]] };
};

interface DrawPanelProps {
  map: WaterMapController | null;
  epsg: number;
  rings: Rings;
  /** What is drawn first. */
  first?: 'outline';
  /** A build was queued. */
  onBuilding: (job: string) => void;
  /** A first outline was saved. */
  onFirst?: () => void;
}

/** Marks that others sent, a line for each who did: they go as they came, all at once. */
function SentMarks({ water, onFailed, onBuilding }: { water: Water; onFailed: (why: string) => void; onBuilding: (job: string) => void }) {
  const queries = useQueryClient();
  const [sure, setSure] = useState<string | null>(null);
  const senders = [...new Set(water.cover.flatMap((c) => c.source ?? []))].sort();
  const remove = async (source: string): Promise<void> => {
    try {
      const { job } = await ask('DELETE /waters/:water/cover', { water: water.id }, { query: { source } });
      await queries.invalidateQueries({ queryKey: ['water', water.id] });
      onBuilding(job);
    } catch (error) {
      onFailed(told(error));
    }
  };
  if (!senders.length) return null;
  return (
    <ul className="-mx-3 mt-3 divide-y divide-line border-t border-line" aria-label={msg('drawPanel.fromOthers')}>
      {senders.map((source) => (
        <li key={source} className="flex items-center gap-2 px-3">
          <span className="min-w-0 flex-1 truncate">
            {msg('drawPanel.marksFrom', { n: water.cover.filter((c) => c.source === source).length, source })}
          </span>
          {sure === source ? (
            <>
              <button type="button" autoFocus className="btn touch-target" onClick={() => setSure(null)}>
                {msg('drawPanel.keep')}
              </button>
              <button type="button" className="btn btn-error touch-target" onClick={() => void remove(source)}>
                {msg('drawPanel.removeAll')}
              </button>
            </>
          ) : (
            <button
              type="button"
              className="btn btn-ghost touch-target px-2"
              aria-label={msg('drawPanel.remove', { name: msg('drawPanel.theMarksFrom', { source }) })}
              onClick={() => setSure(source)}
            >
              <Trash2 size={18} aria-hidden />
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}

/** Cover and hazards placed by hand, and the outline drawn or mended. */
export function DrawPanel({ map, epsg, rings, first, onBuilding, onFirst }: DrawPanelProps) {
  const { water } = useWaterState();
  const queries = useQueryClient();
  const [what, setWhat] = useState<'outline' | number>(first ?? 0);
  const [as, setAs] = useState<DrawKind>('Point');
  const [points, setPoints] = useState<Point[]>([]);
  const [edited, setEdited] = useState<Rings | null>(null);
  const [redraw, setAnew] = useState(false);
  // Where there is no outline yet there is nothing to mend.
  const anew = redraw || rings.length === 0;
  const [corners, setCorners] = useState(0);
  const [name, setName] = useState('');
  const [height, setHeight] = useState('');
  const [limit, setLimit] = useState('');
  const { speed: speedUnit } = useUnits();
  const [round, setRound] = useState(0);
  const [failed, setFailed] = useState<string | null>(null);
  const [saving, setSaving] = useState(false);
  const thing = what === 'outline' ? null : THINGS[what];

  // A build that ends meanwhile hands out its outline anew: what is being drawn goes on.
  const shore = useRef(rings);
  useEffect(() => {
    shore.current = rings;
  }, [rings]);
  useEffect(() => {
    if (!map) return;
    setPoints([]);
    setEdited(null);
    setCorners(0);
    if (thing) map.drawing.start(as, (drawn) => setPoints(drawn));
    else if (anew)
      map.drawing.start('Polygon', (drawn, done) => {
        setEdited(done ? [drawn] : null);
        // The last one follows the finger.
        setCorners(done ? 0 : drawn.length - 1);
      });
    else map.drawing.edit(shore.current, setEdited);
    return () => map.drawing.stop();
  }, [map, thing, as, anew, round]);

  const save = async (): Promise<void> => {
    setFailed(null);
    setSaving(true);
    try {
      let queued: { job: string } | null = null;
      if (thing) {
        const metres = height.trim() ? readNumber(height) : null;
        if (thing.named && !name.trim()) throw new Error(msg('drawPanel.giveItAName'));
        if (metres !== null && !(metres >= 0 && metres < 1000)) throw new Error(msg('drawPanel.heightMustBeA'));
        const body = {
          kind: thing.kind,
          cover: thing.cover,
          name: name.trim() || null,
          height_m: thing.height ? metres : null,
          speed_limit_ms: thing.limit ? limitOf(limit, speedUnit) : null,
          geometry: geometryOf(epsg, as, points),
        };
        queued = await ask('POST /waters/:water/cover', { water: water.id }, { body });
        setName('');
        setHeight('');
        setLimit('');
      } else if (edited) {
        const plane = metricPlane(epsg);
        const outline = ringsToOutline(edited, (p) => degrees(plane.toLatLon(p)));
        queued = await ask('PUT /waters/:water/outline', { water: water.id }, { body: { outline } });
        setAnew(false);
        if (!rings.length) onFirst?.();
      }
      await queries.invalidateQueries({ queryKey: ['water', water.id] });
      if (queued) onBuilding(queued.job);
      setRound(round + 1);
    } catch (error) {
      setFailed(told(error));
    } finally {
      setSaving(false);
    }
  };
  const remove = async (id: number): Promise<void> => {
    setFailed(null);
    try {
      const { job } = await ask('DELETE /waters/:water/cover/:id', { water: water.id, id: String(id) });
      await queries.invalidateQueries({ queryKey: ['water', water.id] });
      onBuilding(job);
    } catch (error) {
      setFailed(told(error));
    }
  };
  const own = water.cover.filter((c) => c.source == null);
  const ready = thing ? points.length >= LEAST[as] : edited !== null;
  return (
    <>
      <label className="flex items-center gap-3">
        <span className="w-14 font-semibold">{msg('drawPanel.what')}</span>
        <select
          className="select h-11 flex-1"
          value={what}
          onChange={(e) => {
            const next = e.target.value === 'outline' ? 'outline' : Number(e.target.value);
            setWhat(next);
            if (next !== 'outline') setAs(THINGS[next].as[0]);
          }}
        >
          {THINGS.map((t, k) => (
            <option key={t.label} value={k}>
              {t.label}
            </option>
          ))}
          <option value="outline">{msg('drawPanel.outlineOfTheWater')}</option>
        </select>
      </label>
      {thing ? (
        <>
          {thing.as.length > 1 && (
            <div className="mt-2">
              <Segments
                label={msg('drawPanel.howItIsDrawn')}
                value={as}
                options={thing.as.map((kind) => [kind, AS[kind]] as const)}
                onChange={setAs}
              />
            </div>
          )}
          <div className="mt-2 flex gap-2">
            <input
              aria-label={msg('drawPanel.name')}
              placeholder={thing.named ? msg('drawPanel.nameOthersAreTold') : msg('drawPanel.nameIfItHas')}
              className="input h-11 min-w-0 flex-1"
              value={name}
              onChange={(e) => setName(e.target.value)}
            />
            {thing.limit && (
              <input
                aria-label={msg('drawPanel.speedLimit', { unit: speedUnit })}
                placeholder={msg('drawPanel.speedLimit', { unit: speedUnit })}
                inputMode="decimal"
                className="input num h-11 w-36"
                value={limit}
                onChange={(e) => setLimit(e.target.value)}
              />
            )}
            {thing.height && (
              <input
                aria-label={msg('drawPanel.heightM')}
                placeholder={msg('drawPanel.heightM2')}
                inputMode="decimal"
                className="input num h-11 w-28"
                value={height}
                onChange={(e) => setHeight(e.target.value)}
              />
            )}
          </div>
        </>
      ) : (
        rings.length > 0 && (
          <button type="button" className="btn touch-target mt-2 w-full" onClick={() => setAnew(!anew)}>
            {anew ? msg('drawPanel.changeTheOutlineThere') : msg('drawPanel.drawANewOutline')}
          </button>
        )
      )}
      <p className="mt-2 text-sm text-mute">
        {!thing && !anew
          ? msg('drawPanel.thisOutlineWasProposed', { outline_proposed: water.outline_proposed ? 'yes' : 'no' })
          : !thing
            ? msg('drawPanel.tapAlongTheShore', { square: 100 })
            : as === 'Point'
              ? msg('drawPanel.tapTheMapWhere')
              : msg('drawPanel.tapTheMapPoint')}
      </p>
      {!thing && anew && !edited && (
        <div className="mt-2 flex gap-2">
          <button
            type="button"
            className="btn touch-target flex-1 px-2"
            onClick={() =>
              void whereIsThisDevice().then(
                (position) => map?.drawing.addPoint(metricPlane(epsg).toMetric(position)),
                (error: Error) => setFailed(error.message),
              )
            }
          >
            <LocateFixed size={18} aria-hidden /> {msg('drawPanel.cornerWhereIAm')}
          </button>
          <button
            type="button"
            className="btn touch-target px-2"
            aria-label={msg('drawPanel.undoTheLastCorner')}
            disabled={!corners}
            onClick={() => map?.drawing.removeLast()}
          >
            <Undo2 size={18} aria-hidden />
          </button>
          <button type="button" className="btn btn-primary touch-target px-2" disabled={corners < 3} onClick={() => map?.drawing.finish()}>
            {msg('drawPanel.closeIt')}
          </button>
        </div>
      )}
      {failed && (
        <p role="alert" className="mt-2 text-warn">
          {msg('drawPanel.notSaved', { failed })}
        </p>
      )}
      <div className="mt-2 flex gap-2">
        <button type="button" className="btn btn-primary touch-target flex-1" disabled={!ready || saving} onClick={() => void save()}>
          {thing ? msg('drawPanel.save', { label: thing.label.toLowerCase() }) : msg('drawPanel.saveOutline')}
        </button>
        <button type="button" className="btn touch-target" onClick={() => setRound(round + 1)}>
          {msg('drawPanel.startOver')}
        </button>
      </div>
      {thing && <SentMarks water={water} onFailed={setFailed} onBuilding={onBuilding} />}
      {thing && own.length > 0 && (
        <ul
          className="-mx-3 mt-3 max-h-56 divide-y divide-line overflow-y-auto border-t border-line"
          aria-label={msg('drawPanel.placedAlready')}
        >
          {own.map((c) => (
            <li key={c.id} className="flex items-center gap-2 px-3">
              <span className="min-w-0 flex-1 truncate">
                {c.name ?? c.cover ?? c.kind}
                <span className="text-sm text-mute">
                  {c.name ? ` · ${c.cover ?? c.kind}` : ''}
                  {c.speed_limit_ms != null ? ` · ${formatSpeed(c.speed_limit_ms)}` : ''}
                  {c.height_m != null ? msg('drawPanel.mHigh', { height_m: c.height_m }) : ''}
                  {c.placed_on ? ` · ${c.placed_on}` : ''}
                </span>
              </span>
              <button
                type="button"
                className="btn btn-ghost touch-target px-2"
                aria-label={msg('drawPanel.remove', { name: c.name ?? c.cover ?? c.kind })}
                onClick={() => void remove(c.id)}
              >
                <Trash2 size={18} aria-hidden />
              </button>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

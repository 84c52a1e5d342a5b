import { useQueryClient } from '@tanstack/react-query';
import { LocateFixed, Trash2, Undo2 } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { metricPlane, ringsToOutline, type LatLon, type Point, type Rings } from '@restless-shoal/core/geo';
import { sendJson } from '../../api/client';
import { readNumber } from '../../parts/read-number';
import { Segments } from '../../parts/segments';
import type { DrawKind, WaterMapController } from '../../parts/water-map';
import { useWaterState } from '../../state/water';
import { useSay } from '../../state/units';
import { whereIsThisDevice } from '../../state/where-is-this-device';

interface Thing {
  label: string;
  kind: string;
  cover: string | null;
  /** How it can be drawn, the usual way first. */
  as: DrawKind[];
  height?: boolean;
}

/** What can be placed by hand. */
const THINGS: Thing[] = [
  { label: 'Hazard', kind: 'hazard', cover: null, as: ['Point', 'LineString', 'Polygon'] },
  { label: 'Timber', kind: 'cover', cover: 'timber', as: ['Point', 'LineString', 'Polygon'], height: true },
  { label: 'Brush', kind: 'cover', cover: 'brush', as: ['Point', 'LineString', 'Polygon'], height: true },
  { label: 'Rock', kind: 'cover', cover: 'rock', as: ['Point', 'LineString', 'Polygon'], height: true },
  { label: 'Dock', kind: 'cover', cover: 'dock', as: ['Polygon', 'LineString', 'Point'] },
  { label: 'Weed', kind: 'weed', cover: 'weed', as: ['Polygon', 'LineString', 'Point'], height: true },
  { label: 'Hard patch or edge', kind: 'hard', cover: null, as: ['Polygon', 'LineString', 'Point'] },
  { label: 'Access', kind: 'access', cover: null, as: ['Point'] },
  { label: 'Place to remember', kind: 'mark', cover: null, as: ['Point'] },
];
const AS: Record<DrawKind, string> = { Point: 'Spot', LineString: 'Line', Polygon: 'Area' };
const LEAST: Record<DrawKind, number> = { Point: 1, LineString: 2, Polygon: 3 };

const degrees = ({ latitude, longitude }: LatLon): [number, number] => [Number(longitude.toFixed(7)), Number(latitude.toFixed(7))];

const geometryOf = (epsg: number, as: DrawKind, points: Point[]): object => {
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

/** Cover and hazards placed by hand, and the outline drawn or mended. */
export function DrawPanel({ map, epsg, rings, first, onBuilding, onFirst }: DrawPanelProps) {
  const { water } = useWaterState();
  const say = useSay();
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
        if (metres !== null && !(metres >= 0 && metres < 1000)) throw new Error('height must be a number of metres, as in 1.5');
        queued = await sendJson<{ job: string }>('POST', `/waters/${water.id}/cover`, {
          kind: thing.kind,
          cover: thing.cover,
          name: name.trim() || null,
          height_m: thing.height ? metres : null,
          geometry: geometryOf(epsg, as, points),
        });
        setName('');
        setHeight('');
      } else if (edited) {
        const plane = metricPlane(epsg);
        const outline = ringsToOutline(edited, (p) => degrees(plane.toLatLon(p)));
        queued = await sendJson<{ job: string }>('PUT', `/waters/${water.id}/outline`, { outline });
        setAnew(false);
        if (!rings.length) onFirst?.();
      }
      await queries.invalidateQueries({ queryKey: ['water', water.id] });
      if (queued) onBuilding(queued.job);
      setRound(round + 1);
    } catch (error) {
      setFailed((error as Error).message);
    } finally {
      setSaving(false);
    }
  };
  const remove = async (id: number): Promise<void> => {
    setFailed(null);
    try {
      const { job } = await sendJson<{ job: string }>('DELETE', `/waters/${water.id}/cover/${id}`);
      await queries.invalidateQueries({ queryKey: ['water', water.id] });
      onBuilding(job);
    } catch (error) {
      setFailed((error as Error).message);
    }
  };
  const ready = thing ? points.length >= LEAST[as] : edited !== null;
  return (
    <>
      <label className="flex items-center gap-3">
        <span className="w-14 font-semibold">What</span>
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
          <option value="outline">Outline of the water</option>
        </select>
      </label>
      {thing ? (
        <>
          {thing.as.length > 1 && (
            <div className="mt-2">
              <Segments label="How it is drawn" value={as} options={thing.as.map((kind) => [kind, AS[kind]] as const)} onChange={setAs} />
            </div>
          )}
          <div className="mt-2 flex gap-2">
            <input
              aria-label="Name"
              placeholder="name, if it has one"
              className="input h-11 min-w-0 flex-1"
              value={name}
              onChange={(e) => setName(e.target.value)}
            />
            {thing.height && (
              <input
                aria-label="Height, m"
                placeholder="height, m"
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
            {anew ? 'Change the outline there is' : 'Draw a new outline'}
          </button>
        )
      )}
      <p className="mt-2 text-sm text-mute">
        {!thing && !anew
          ? `${water.outline_proposed ? 'This outline was proposed from the soundings. ' : ''}Drag its points; a tap on the line makes a new one.`
          : !thing
            ? 'Tap along the shore, corner by corner, then close the outline. Squares are 100 m.'
            : as === 'Point'
              ? 'Tap the map where it is, or move the map under its middle with the arrows and press Enter.'
              : 'Tap the map point by point; tap twice to end. With keys: Enter sets a point at the middle of the map, Enter again ends.'}
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
            <LocateFixed size={18} aria-hidden /> Corner where I am
          </button>
          <button
            type="button"
            className="btn touch-target px-2"
            aria-label="Take the last corner back"
            disabled={!corners}
            onClick={() => map?.drawing.removeLast()}
          >
            <Undo2 size={18} aria-hidden />
          </button>
          <button type="button" className="btn btn-primary touch-target px-2" disabled={corners < 3} onClick={() => map?.drawing.finish()}>
            Close it
          </button>
        </div>
      )}
      {failed && (
        <p role="alert" className="mt-2 text-warn">
          Not saved: {failed}
        </p>
      )}
      <div className="mt-2 flex gap-2">
        <button type="button" className="btn btn-primary touch-target flex-1" disabled={!ready || saving} onClick={() => void save()}>
          {thing ? `Save ${thing.label.toLowerCase()}` : 'Save outline'}
        </button>
        <button type="button" className="btn touch-target" onClick={() => setRound(round + 1)}>
          Start over
        </button>
      </div>
      {thing && water.cover.length > 0 && (
        <ul className="-mx-3 mt-3 max-h-56 divide-y divide-line overflow-y-auto border-t border-line" aria-label="Placed already">
          {water.cover.map((c) => (
            <li key={c.id} className="flex items-center gap-2 px-3">
              <span className="min-w-0 flex-1 truncate">
                {c.name ?? c.cover ?? c.kind}
                <span className="text-sm text-mute">
                  {c.name ? ` · ${c.cover ?? c.kind}` : ''}
                  {c.height_m != null ? say(` · ${c.height_m} m high`) : ''}
                  {c.placed_on ? ` · ${c.placed_on}` : ''}
                </span>
              </span>
              <button
                type="button"
                className="btn btn-ghost touch-target px-2"
                aria-label={`Take away ${c.name ?? c.cover ?? c.kind}`}
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

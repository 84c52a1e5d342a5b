import { useEffect, useMemo, useState } from 'react';
import type { LatLon } from '@restless-shoal/core/geo';
import { newId, type Contact } from '@restless-shoal/core/logbook';
import {
  boatAlong,
  boatAt,
  placeTarget,
  scaleOf,
  type PictureReading,
  type ReadingTrouble,
  type ScaledPicture,
} from '@restless-shoal/core/sonar';
import { useTrip } from '../../api/queries';
import { keepAndSend } from '../../offline/device';
import { clockInZone, dayInZone, fromLocalInput, toLocalInput } from '../../parts/format';
import { readPhoto, usePhotos, type ReadPhoto } from '../../parts/photos';
import { logged } from '../../parts/records/mark-row';
import { asSent } from '../../parts/records/trip-record';
import { told } from '../../parts/told';
import { edits } from '../../state/edits';
import { rigAt } from '../../state/rig';
import { useWaterState } from '../../state/water';
import { bench as msg } from '../../words';
import type { PictureTarget, PictureView } from './picture-state';

/** Trips that are offered. */
const LAST = 30;
/** A fix this near in time says where the boat was, ms. */
const NEAR_MS = 60_000;

/** What the picture was scaled by, as it is kept with its marks. */
function scaleKept(scale: ScaledPicture, photo: string): string {
  const axis = scale.view === 'side-scan' ? scale.range : scale.depth;
  const made = scaleOf(...axis);
  return `picture ${photo}, ${scale.view}, ${typeof made === 'string' ? '' : Math.abs(made.perPixel).toPrecision(4)} m/px`;
}

/** Puts what was read into a trip of the log, the picture with it. */
export function PictureSave({
  file,
  view,
  scale,
  targets,
  readings,
  onSaved,
}: {
  file: File;
  view: PictureView;
  scale: ScaledPicture;
  targets: readonly PictureTarget[];
  readings: readonly (PictureReading | ReadingTrouble)[];
  onSaved: (saved: { trip: string; n: number }) => void;
}) {
  const { log, water } = useWaterState();
  const zone = water.time_zone;
  const trips = useMemo(() => [...log.trips].sort((a, b) => b.start.localeCompare(a.start)), [log.trips]);
  const [said, setSaid] = useState<ReadPhoto | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const [typed, setTyped] = useState<string | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  useEffect(() => {
    let gone = false;
    readPhoto(file).then(
      (photo) => !gone && setSaid(photo),
      (error: unknown) => !gone && setFailed(told(error)),
    );
    return () => {
      gone = true;
    };
  }, [file]);
  const taken = said?.taken?.getTime() ?? null;
  const during = taken === null ? undefined : trips.find((t) => Date.parse(t.start) <= taken && taken <= Date.parse(t.end ?? '9999'));
  const id = chosen ?? (during ?? trips[0])?.id ?? null;
  const trip = useTrip(id);
  const photos = usePhotos(id ?? '');
  const row = trips.find((t) => t.id === id);
  const along = useMemo(() => boatAlong(trip.data?.track ?? []), [trip.data]);
  // Where the camera did not say: when the boat is first known to be somewhere.
  const usual = row && new Date(during && during.id === id && taken !== null ? taken : (along[0]?.at ?? Date.parse(row.start)));
  const time = typed === null ? usual : fromLocalInput(typed, zone);
  const boat = time ? boatAt(along, time.getTime()) : null;
  // Between fixes that lie far apart the boat was near one of them; how it headed then, nobody knows.
  const near =
    time &&
    along.reduce<{ off: number; at: LatLon } | null>((best, fix) => {
      const off = Math.abs(fix.at - time.getTime());
      return off <= NEAR_MS && off < (best?.off ?? Infinity) ? { off, at: fix.position } : best;
    }, null);
  const tracked = boat?.position ?? near?.at ?? null;
  const from: LatLon | null = tracked ?? said?.place ?? null;
  const good = readings.flatMap((reading, k) => (typeof reading === 'string' ? [] : [{ reading, target: targets[k] }]));

  /** Where a target lies: aside of the boat's course where there is one. */
  const placeOf = ({ starboard, ahead }: PictureReading): LatLon => {
    if (!boat) return from!;
    const rig = rigAt(time!.getTime());
    return placeTarget(boat, ahead?.value ?? 0, starboard?.value ?? 0, rig, rig.delay);
  };
  const save = async (): Promise<void> => {
    setBusy(true);
    setFailed(null);
    try {
      const at = time!.toISOString();
      const rows = good.map(({ reading, target }): { id: string; row: Partial<Contact> } => {
        const key = newId();
        const depth = reading.depth === null ? null : Number(Math.max(0, reading.depth.value).toFixed(2));
        const place = placeOf(reading);
        const deep =
          target.kind === 'bottom' || (target.kind === 'cover' && reading.water)
            ? { water_depth_m: depth }
            : { top_m: depth, bottom_m: depth, ...(reading.water ? { water_depth_m: Number(reading.water.value.toFixed(2)) } : {}) };
        return {
          id: key,
          row: {
            time: at,
            ...logged(place),
            kind: target.kind,
            contact: key,
            view,
            ...(target.kind === 'fish' || target.kind === 'bait' ? { count: target.count } : {}),
            ...deep,
          },
        };
      });
      const photo = await photos.add([file], { time: at, shows: 'screen', contact: rows[0].id });
      const settings = scaleKept(scale, photo!);
      let there = false;
      await edits.do({
        words: msg('picture.marksAdded', { n: rows.length }),
        redo: async () => {
          for (const { id: key, row: contact } of rows) {
            const body = asSent('contacts', { ...contact, settings });
            if (there) await keepAndSend('POST /trips/:trip/contacts/:id/restore', { trip: id!, id: key }, body as never);
            else await keepAndSend('PUT /trips/:trip/contacts/:id', { trip: id!, id: key }, body as never);
          }
          there = true;
        },
        undo: async () => {
          for (const { id: key } of rows) await keepAndSend('DELETE /trips/:trip/contacts/:id', { trip: id!, id: key });
        },
      });
      onSaved({ trip: id!, n: rows.length });
    } catch (error) {
      setFailed(told(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <section aria-label={msg('picture.intoTheLog')}>
      <h2 className="text-lg font-bold">{msg('picture.intoTheLog')}</h2>
      {!trips.length ? (
        <p className="text-mute">{msg('tuning.noTrip')}</p>
      ) : (
        <>
          <label className="mt-1 grid grid-cols-[4rem_1fr] items-center gap-2">
            <span className="text-mute">{msg('tuning.trip')}</span>
            <select
              className="select h-11 w-full"
              value={id ?? ''}
              onChange={(e) => {
                setChosen(e.target.value);
                setTyped(null);
              }}
            >
              {trips.slice(0, LAST).map((t) => (
                <option key={t.id} value={t.id}>
                  {dayInZone(new Date(t.start), zone)} {clockInZone(new Date(t.start), zone)}
                </option>
              ))}
            </select>
          </label>
          <label className="mt-1 grid grid-cols-[4rem_1fr] items-center gap-2">
            <span className="text-mute">{msg('picture.time')}</span>
            <input
              type="datetime-local"
              step={1}
              className="input num h-11 w-full"
              value={typed ?? (usual ? toLocalInput(usual, zone) : '')}
              onChange={(e) => setTyped(e.target.value)}
            />
          </label>
          <p className={`mt-1 text-sm ${from ? 'text-mute' : 'text-warn'}`}>
            {msg(
              tracked
                ? 'picture.placeOfTrack'
                : from
                  ? 'picture.placeOfCamera'
                  : trip.error && !trip.data
                    ? 'picture.noTripHere'
                    : 'picture.noPlace',
            )}
          </p>
          <button
            type="button"
            className="btn btn-primary mt-2 h-12 w-full"
            disabled={busy || !from || !time || !said || !good.length}
            onClick={() => void save()}
          >
            {msg('picture.save', { n: good.length })}
          </button>
        </>
      )}
      {failed && (
        <p role="alert" className="mt-2 text-warn">
          {failed}
        </p>
      )}
    </section>
  );
}

import { Plus } from 'lucide-react';
import { lazy, Suspense, useMemo, useState, type ReactNode } from 'react';
import { useOutcomes, type LoggedTrip, type StoredReading } from '../../api/queries';
import { clockInZone, compass, depthText, grouped } from '../../parts/format';
import { TripPhotos } from '../../parts/photos';
import { OutcomeWords } from '../../parts/outcome-words';
import { Bag } from '../../parts/records/bag';
import { DayStrip } from '../../parts/records/day-strip';
import { dayEntries } from '../../parts/records/day-entries';
import { logged } from '../../parts/records/mark-row';
import { SunMoon } from '../../parts/sun-moon';
import { told } from '../../parts/told';
import { Waiting } from '../../parts/waiting';
import { useWaterState } from '../../state/water';
import { capital, decimal, formatSpeed, formatTemperature, logbook as msg, term } from '../../words';
import { Catch } from './catch';
import { MarksTable } from './marks-table';
import { TripHeader } from './trip-header';
import { caughtWords, seenWords } from './trip-row';
import { idOfEntry, TripSheets, type OpenInTrip } from './trip-sheets';
import { TripTables } from './trip-tables';
import { useTripLog } from './use-trip-log';

// The map is large: it comes when a trip is opened.
const TripMap = lazy(() => import('./trip-map').then((m) => ({ default: m.TripMap })));

const readingWords = (r: StoredReading): string =>
  [
    r.surface_temperature_c !== null && formatTemperature(r.surface_temperature_c),
    r.secchi_m !== null && msg('tripPage.clear', { secchi: depthText(r.secchi_m) }),
    r.wind_speed_ms !== null && msg('tripPage.wind', { from: r.wind_from_deg === null ? '' : compass(r.wind_from_deg), speed: formatSpeed(r.wind_speed_ms) }), // prettier-ignore
    r.air_temperature_c !== null && msg('tripPage.air', { air: formatTemperature(r.air_temperature_c) }),
    r.cloud_fraction !== null && msg('tripPage.cloud', { cloud: Math.round(100 * r.cloud_fraction) }),
    r.air_pressure_hpa !== null && `${decimal(r.air_pressure_hpa)} hPa`,
    r.water_level_m !== null && msg('tripPage.level', { level: depthText(r.water_level_m) }),
    r.signs,
  ]
    .filter(Boolean)
    .join(' · ');

/** A trip: all that was logged on it, to be read, put right, deleted and brought back. */
export function TripPage({ id, trips }: { id: string; trips: LoggedTrip[] }) {
  const { water, ground } = useWaterState();
  const log = useTripLog(id);
  const outcomes = (useOutcomes(water.id).data ?? []).filter((o) => o.trip === id);
  const [open, setOpen] = useState<OpenInTrip>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const { detail, row, readings } = log;
  const { profiles: all } = useWaterState().log;
  const profiles = useMemo(() => all.filter((p) => p.trip === row?.trip), [all, row]);
  const trip = trips.find((t) => t.id === id)!;
  const zone = water.time_zone;
  const entries = useMemo(() => (detail ? dayEntries(detail) : []), [detail]);
  const attempt = (work: Promise<void>): Promise<void> => {
    setFailed(null);
    return work.catch((error) => setFailed(told(error)));
  };
  if (!detail || !row) return <Waiting what={msg('tripPage.theTrip')} failed={log.failed} />;

  /** A fish that was not logged on the water, at the last stop until somebody says otherwise. */
  const addFish = (): void => {
    const stop = detail.stops.filter((s) => s.start !== s.end).at(-1);
    const fish = { time: stop?.end ?? row.end ?? row.start, response: 'landed', stop: stop?.stop ?? null };
    void attempt(log.add('responses', fish, msg('tripPage.fishAdded')).then((added) => setOpen({ what: 'response', id: added })));
  };
  return (
    <div
      className={`h-full overflow-y-auto lg:grid lg:grid-rows-[auto_minmax(0,1fr)] lg:overflow-hidden ${ground ? 'lg:grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)]' : 'lg:grid-cols-1'}`}
    >
      <TripHeader
        row={row}
        trips={trips}
        refused={log.refused ?? null}
        failed={failed}
        attempt={attempt}
        onFail={setFailed}
        onOpen={setOpen}
      />
      {ground && (
        <div className="h-[45vh] min-h-72 border-line lg:h-auto lg:border-r">
          <Suspense fallback={<Waiting what={msg('tripPage.theMap')} failed={null} />}>
            <TripMap
              detail={detail}
              onOpen={(mark) => setOpen({ what: 'entry', id: mark })}
              onMove={(mark, to) => {
                const contact = detail.contacts.find((c) => c.id === mark);
                const stop = detail.stops.find((s) => s.id === mark);
                if (contact) void attempt(log.change('contacts', [contact], () => ({ ...logged(to) }), msg('tripPage.markMoved')));
                if (stop) void attempt(log.change('stops', [stop], () => ({ ...logged(to) }), msg('tripPage.stopMoved')));
              }}
            />
          </Suspense>
        </div>
      )}
      <div className="min-h-0 overflow-y-auto p-4 max-lg:p-3" tabIndex={0} role="group" aria-label={msg('tripPage.whatWasLogged')}>
        <p className="font-semibold">{caughtWords(trip)}</p>
        <p className="mb-2 text-mute">{seenWords(trip)}</p>
        {row.notes && <p className="mb-3 border-l-4 border-line pl-3">{row.notes}</p>}
        <DayStrip entries={entries} zone={zone} height={86} onOpen={(e) => setOpen({ what: 'entry', id: idOfEntry(e) })} />
        <Section title={msg('tripPage.fish', { n: detail.responses.length })} action={msg('tripPage.addFish')} onAction={addFish}>
          <Catch detail={detail} species={water.species} zone={zone} onOpen={(fish) => setOpen({ what: 'response', id: fish })} />
        </Section>
        {row.purpose === 'tournament' && (
          <Section title={msg('tripPage.bag')}>
            <Bag
              key={`${row.bag} ${row.least_length_m} ${row.weigh_in}`}
              trip={row}
              responses={detail.responses}
              species={water.species}
              zone={zone}
              onRules={(rules) => void attempt(log.changeTrip(rules, msg('tripPage.tripChanged')))}
            />
          </Section>
        )}
        <Section title={msg('tripPage.photos', { n: detail.photos.length })}>
          <TripPhotos water={water.id} detail={detail} zone={zone} />
        </Section>
        <Section
          title={msg('tripPage.conditions')}
          action={msg('tripPage.addReading')}
          onAction={() => setOpen({ what: 'reading', reading: null })}
        >
          <SunMoon day={new Date(row.start)} />
          {readings.length ? (
            <ul>
              {readings.map((r) => (
                <li key={r.id ?? r.time}>
                  <button
                    type="button"
                    className="num flex min-h-11 w-full items-center gap-3 rounded px-1 py-1 text-left hover:bg-surface"
                    disabled={r.id === undefined}
                    onClick={() => setOpen({ what: 'reading', reading: r })}
                  >
                    <span className="w-14 shrink-0 text-mute">{clockInZone(new Date(r.time), zone)}</span>
                    <span>{readingWords(r) || msg('tripPage.nothingRead')}</span>
                  </button>
                </li>
              ))}
            </ul>
          ) : (
            <p className="text-mute">{msg('tripPage.noWaterReadings')}</p>
          )}
        </Section>
        {outcomes.length > 0 && (
          <Section title={msg('tripPage.forecast')}>
            {outcomes.map((o) => (
              <p key={o.species} className="mb-1">
                <b>{capital(term(o.species))}:</b> <OutcomeWords outcome={o} />
              </p>
            ))}
          </Section>
        )}
        <Section title={msg('tripPage.marks', { n: grouped(detail.contacts.length) })}>
          <MarksTable
            contacts={detail.contacts}
            species={water.species}
            zone={zone}
            onOpen={(mark) => setOpen({ what: 'entry', id: mark })}
            onChange={(rows, to, words) => attempt(log.change('contacts', rows, () => to, words))}
            onRemove={(rows, words) =>
              attempt(
                log.remove(
                  rows.map((r) => ({ record: 'contacts', id: r.id, row: r })),
                  words,
                ),
              )
            }
          />
        </Section>
        <Section title={msg('tripPage.tables')}>
          <TripTables
            detail={detail}
            readings={readings}
            profiles={profiles}
            zone={zone}
            onOpen={setOpen}
            onRemove={(record, rows) =>
              void attempt(
                log.remove(
                  rows.map((r) => ({ record, id: r.id!, row: r })),
                  msg('tripPage.deletedN', { n: rows.length }),
                ),
              )
            }
          />
        </Section>
      </div>
      <TripSheets open={open} onOpen={setOpen} trips={trips} row={row} detail={detail} entries={entries} log={log} attempt={attempt} />
    </div>
  );
}

function Section({ title, action, onAction, children }: { title: string; action?: string; onAction?: () => void; children: ReactNode }) {
  return (
    <section aria-label={title} className="mt-4 border-t border-line pt-2">
      <div className="mb-1 flex items-center justify-between gap-2">
        <h2 className="text-lg font-bold">{title}</h2>
        {action && (
          <button type="button" className="btn touch-target px-3" onClick={onAction}>
            <Plus size={18} aria-hidden /> {action}
          </button>
        )}
      </div>
      {children}
    </section>
  );
}

import { useQueryClient } from '@tanstack/react-query';
import { Printer, SlidersHorizontal, Thermometer } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { Link } from 'react-router';
import { metricPlane, outlineToRings } from '@restless-shoal/core/geo';
import { newId } from '@restless-shoal/core/logbook';
import { lightWindows, type ProfileSample } from '@restless-shoal/core/lake';
import { sendJson } from '../../api/client';
import { clockInZone, compass, inZone, percent } from '../../parts/format';
import { Waiting } from '../../parts/waiting';
import { useWaterState } from '../../state/water';
import type { BriefAnswer } from '../../workers/forecast.worker';
import { useForecastWorker } from '../../workers/use-forecast-worker';
import { ToKnowMore } from './to-know-more';
import { BigColumn } from './big-column';
import { CastForm } from './cast-form';
import { LeftOfWater } from './left-of-water';
import { ProfileSheet } from './profile-sheet';
import { Ribbon } from './ribbon';
import { Say } from '../../parts/say';

/** The brief of the day, computed in the worker whenever the conditions change. */
function useBrief(): BriefAnswer | null {
  const { chartBytes, conditions, frame, day, species, log } = useWaterState();
  const worker = useForecastWorker(chartBytes);
  const [answer, setAnswer] = useState<BriefAnswer | null>(null);
  const signs = useMemo(
    () =>
      log.readings
        .filter((r) => r.signs && Math.abs(Date.parse(r.time) - conditions.at.getTime()) < 4 * 86_400_000)
        .map((r) => r.signs)
        .join(', '),
    [log.readings, conditions.at],
  );
  useEffect(() => {
    let gone = false;
    void worker?.brief({ day, frame, species, signs }).then((a) => {
      if (!gone) setAnswer(a);
    });
    return () => {
      gone = true;
    };
  }, [worker, day, frame, species, signs]);
  return answer;
}

/** Logs a cast: in the running trip, or in a short scouting trip of its own. */
function useLogCast(): (samples: ProfileSample[]) => Promise<void> {
  const { water, running, log } = useWaterState();
  const queries = useQueryClient();
  return async (samples) => {
    const now = new Date().toISOString();
    let trip = running?.id;
    if (!trip) {
      trip = newId();
      const name = `cast ${now.slice(0, 16)}`;
      await sendJson('PUT', `/waters/${water.id}/trips/${trip}`, {
        trip: log.trips.some((t) => t.trip === name) ? `${name}:${now.slice(17, 23)}` : name,
        start: now,
        end: now,
        purpose: 'scout',
      });
    }
    const profile = `cast ${now}`;
    await sendJson(
      'POST',
      `/trips/${trip}/profiles`,
      samples.map((s) => ({ profile, time: now, depth_m: s.depth, temperature_c: s.temperature, oxygen_mg_l: s.oxygen ?? null })),
    );
    const surface = samples.reduce((a, b) => (b.depth < a.depth ? b : a));
    await sendJson('POST', `/trips/${trip}/conditions`, { time: now, surface_temperature_c: surface.temperature });
    await queries.invalidateQueries({ queryKey: ['log', water.id] });
  };
}

/** Before launch: which depths can hold fish today, how much of the water is left, what each strategy suggests. */
export function Brief() {
  const state = useWaterState();
  const { chart, species, water, day, conditions, season, course, frame } = state;
  const answer = useBrief();
  const logCast = useLogCast();
  const [typing, setTyping] = useState(false);
  const [map, setMap] = useState<'left' | 'waves'>('left');
  const [editing, setEditing] = useState(false);
  const beside = useMemo(() => {
    const logged = water.logged.flatMap((name) => water.species.find((s) => s.name === name) ?? []);
    const forage = (water.forage ?? []).flatMap((name) => water.species.find((s) => s.name === name) ?? []);
    return [...new Set([species, ...logged.filter((s) => !s.isForage).slice(0, 3), ...forage.slice(0, 1)])].slice(0, 4);
  }, [species, water]);
  const light = useMemo(
    () => lightWindows(conditions.at, frame.latitude, frame.longitude),
    [conditions.at, frame.latitude, frame.longitude],
  );

  const rings = useMemo(() => {
    if (!chart || !water.outline) return [];
    const plane = metricPlane(chart.epsg);
    return outlineToRings(water.outline, (longitude, latitude) => plane.toMetric({ latitude, longitude }));
  }, [chart, water.outline]);
  if (!answer) return <Waiting what="the day" failed={null} />;
  const { window, share, schools, waves, heat } = answer;
  const zone = water.time_zone;
  const band = `/chart?band=${window.top.toFixed(1)}-${window.bottom.toFixed(1)}`;
  return (
    <div className="flex h-full flex-col max-md:block max-md:overflow-y-auto print:block print:h-auto" data-testid="brief">
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,430px)_minmax(0,1fr)_320px] overflow-y-auto max-xl:grid-cols-2 max-md:grid-cols-1 print:!grid-cols-[minmax(0,430px)_minmax(0,1fr)_320px] print:overflow-visible">
        <section className="border-line p-4 max-md:border-b md:border-r" aria-label="The water today">
          <div className="mb-1 flex items-baseline justify-between gap-2 text-sm text-mute">
            <span className="whitespace-nowrap">
              <b className="text-ink">The water today</b>,{' '}
              <Say>
                {chart || water.deepest_m !== null
                  ? `deepest ${frame.deepest.toFixed(1)} m`
                  : `taken as ${frame.deepest.toFixed(0)} m deep`}
              </Say>
            </span>
            <span>
              {day.column.castAt
                ? `cast ${inZone(day.column.castAt, zone, { day: 'numeric', month: 'short' })}${day.column.modelled ? ', modelled since' : ''}`
                : day.column.ofSeason > 0.5
                  ? 'as cast in other years'
                  : 'no cast: modelled'}
            </span>
          </div>
          <BigColumn
            column={day.column}
            secchi={conditions.secchi}
            maxDepth={day.maxDepth}
            sunHeight={day.sunHeight}
            species={beside}
            chosen={species.name}
            tilt={answer.water.tilt}
            rule={day.rule}
            onThermocline={(thermoclineSet) => state.setWhatIf({ thermoclineSet })}
          />
          <p className="num text-sm text-mute">
            <b className="text-ink">{answer.water.state}</b>; mixed down to <Say>{answer.water.mixedLayer.toFixed(1)} m</Say>; stability{' '}
            {Math.round(answer.water.stability)} J/m²
            {answer.water.lakeNumber !== null &&
              `; lake number ${answer.water.lakeNumber.toFixed(1)}${answer.water.lakeNumber < 1 ? ': this wind moves the deep water' : ''}`}
            . Red: temperature; broken line: oxygen; right edge: light.
          </p>
          <div className="mt-2 flex flex-wrap gap-2 print:hidden">
            <button type="button" className="btn touch-target" onClick={() => setTyping(true)}>
              <Thermometer size={18} aria-hidden /> Add temperature profile
            </button>
            {!day.column.thermocline && (
              <button
                type="button"
                className="btn touch-target"
                onClick={() =>
                  state.setWhatIf({ thermoclineSet: { top: Math.min(5, day.maxDepth * 0.4), bottom: Math.min(7, day.maxDepth * 0.6) } })
                }
              >
                A thermocline on the sounder
              </button>
            )}
            <button type="button" className="btn touch-target" onClick={() => setEditing(true)}>
              <SlidersHorizontal size={18} aria-hidden /> What {species.name} need
            </button>
          </div>
        </section>
        <section className="min-w-0 border-line p-5 xl:border-r" aria-label="Depths">
          <h1 className="text-[22px] font-bold leading-tight" data-testid="headline">
            <Say>{headline(species.name, window)}</Say>
            {!window.empty && share && <span className="block">That is bottom in {percent(share.bottom)} of the water.</span>}
          </h1>
          <p className="mt-1.5 text-[15px] text-mute">
            <b className="text-ink">Shallow edge</b>: <Say>{window.topReason}</Say>.<br />
            <b className="text-ink">Deep edge</b>: <Say>{window.bottomReason}</Say>.
            {!window.empty && share && (
              <>
                <br />
                Over a further <b className="num text-ink">{percent(share.over)}</b> (pale) fish can hang there above a deeper bottom.
              </>
            )}
          </p>
          {light.length > 0 && (
            <p className="num mt-1.5 text-[15px] text-mute">
              Low light: {light.map((l) => `${l.name} ${clockInZone(l.from, zone)}–${clockInZone(l.to, zone)}`).join(', ')}.
            </p>
          )}
          {heat.length > 0 && (
            <>
              <h2 className="mb-1 mt-4 text-sm text-mute">Warmer than {species.name} prefer. Four explanations; your log will tell</h2>
              <PlanTable rows={heat.map((r) => ({ name: r.name, words: r.words, places: r.places }))} />
            </>
          )}
          <h2 className="mb-1 mt-4 text-sm text-mute">What each strategy suggests now</h2>
          <PlanTable rows={schools} />
        </section>
        <aside
          className="flex flex-col gap-3 bg-surface p-4 max-xl:col-span-2 max-xl:border-t max-md:col-span-1 border-line print:!col-span-1"
          aria-label="What is left, and cautions"
        >
          {chart && share && waves && rings.length > 0 ? (
            <>
              <div className="flex items-baseline justify-between text-sm">
                <span role="radiogroup" aria-label="The small map shows" className="join">
                  {(['left', 'waves'] as const).map((m) => (
                    <button
                      key={m}
                      type="button"
                      role="radio"
                      aria-checked={map === m}
                      onClick={() => setMap(m)}
                      className={`btn join-item touch-target px-3 ${map === m ? 'font-bold' : 'btn-ghost font-normal'}`}
                    >
                      {m === 'left' ? 'What is left' : 'Waves'}
                    </button>
                  ))}
                </span>
                <Link to={band} className="touch-target inline-flex items-center text-act underline print:hidden">
                  open the Chart
                </Link>
              </div>
              <Link to={band} aria-label="Open the Chart shaded the same way">
                <LeftOfWater
                  waves={map === 'waves' ? answer.waveHeights : null}
                  chart={chart}
                  rings={rings}
                  window={window}
                  label={`${percent(share.bottom)} of the water has its bottom inside the window, ${percent(share.over)} the window over a deeper bottom`}
                />
              </Link>
              <p className="num text-sm text-mute">
                <Say>
                  {waves.side === null ? 'Calm.' : `Waves at ${compass(conditions.windFrom)} ${Math.round(conditions.windSpeed)} m/s: `}
                </Say>
                {waves.side !== null && (
                  <b className="text-ink">
                    <Say>
                      up to {waves.highest.toFixed(1)} m on the {compass(waves.side)} side, wind-blown
                    </Say>
                  </b>
                )}
              </p>
            </>
          ) : (
            <ToKnowMore />
          )}
          {answer.cautions.map((c) => (
            <p
              key={c.title}
              className="border-l-[5px] py-0.5 pl-3 text-sm leading-snug"
              style={{ borderColor: c.level === 'warning' ? 'var(--warn)' : 'var(--bait)' }}
            >
              <b>{c.title}</b> <Say>{c.words}</Say>
            </p>
          ))}
          <button type="button" className="btn touch-target mt-auto print:hidden" onClick={() => globalThis.print()}>
            <Printer size={18} aria-hidden /> Print this page
          </button>
        </aside>
      </div>
      <section className="shrink-0 border-t border-line bg-surface px-4 py-2" aria-label="The season">
        <p className="flex flex-wrap justify-between gap-2 text-sm text-mute">
          <span>
            <b className="text-ink">
              {species.name[0].toUpperCase()}
              {species.name.slice(1)} on this water
            </b>
            , {course.readings >= 12 ? `from ${course.readings} readings of its own` : 'mostly from its latitude: few readings yet'}
          </span>
          <span>surface temperature: this year (line), as usual (dots)</span>
        </p>
        <div className="overflow-x-auto" tabIndex={0} aria-label="The year as stages">
          <div className="max-md:w-[900px]">
            <Ribbon season={season} />
          </div>
        </div>
      </section>
      {editing && <ProfileSheet onClose={() => setEditing(false)} />}
      {typing && <CastForm onSave={logCast} onClose={() => setTyping(false)} />}
    </div>
  );
}

/** "Zander between 4.6 and 7.0 m." */
function headline(name: string, { top, bottom, empty }: BriefAnswer['window']): string {
  const title = name[0].toUpperCase() + name.slice(1);
  if (empty) return `Nothing of this water suits ${name} today.`;
  return top < 0.3
    ? `${title} from the surface to ${bottom.toFixed(1)} m.`
    : `${title} between ${top.toFixed(1)} and ${bottom.toFixed(1)} m.`;
}

function PlanTable({ rows }: { rows: { name: string; words: string; places: number | null }[] }) {
  return (
    <table className="w-full text-sm leading-snug">
      <tbody>
        {rows.map((r) => (
          <tr key={r.name} className="border-t border-line align-top">
            <th scope="row" className="w-32 py-1 pr-2 text-left font-bold">
              {r.name}
            </th>
            <td className="py-1">
              <Say>{r.words}</Say>
            </td>
            <td className="num whitespace-nowrap py-1 pl-2 text-right text-mute">
              {r.places !== null && `${r.places} ${r.places === 1 ? 'place' : 'places'}`}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

import { useQueryClient } from '@tanstack/react-query';
import { Plus, Printer, SlidersHorizontal, Thermometer } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { Link } from 'react-router';
import { metricPlane, outlineToRings } from '@restless-shoal/core/geo';
import { newId } from '@restless-shoal/core/logbook';
import { lowLight, type ProfileSample } from '@restless-shoal/core/lake';
import { isSqueezed } from '@restless-shoal/core/species';
import { keepAndSend } from '../../offline/device';
import { clockInZone, compass, inZone, percent } from '../../parts/format';
import { Waiting } from '../../parts/waiting';
import { useWaterState } from '../../state/water';
import type { BriefAnswer } from '../../workers/forecast.worker';
import { useForecastService } from '../../workers/forecast-service';
import { ToKnowMore } from './to-know-more';
import { AddSpecies } from './add-species';
import { BigColumn } from './big-column';
import { ProfileForm } from './profile-form';
import { LeftOfWater } from './left-of-water';
import { ProfileSheet } from './profile-sheet';
import { Ribbon } from './ribbon';
import { TideSection } from './tide-section';
import { brief as msg, capital, decimal, say, strategyName, term } from '../../words';

/** The brief of the day, computed anew whenever the conditions change; the last one stands meanwhile. */
function useBrief(): { answer: BriefAnswer | null; failed: Error | null } {
  const { chartBytes, conditions, frame, day, species, season, log } = useWaterState();
  const spawning = season.stage === 'spawning';
  const { service, failed } = useForecastService(chartBytes);
  const [state, setState] = useState<{ answer: BriefAnswer | null; failed: Error | null }>({ answer: null, failed: null });
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
    service?.brief({ day, frame, species, spawning, signs }).then(
      (answer) => {
        if (!gone) setState({ answer, failed: null });
      },
      (error: Error) => {
        if (!gone) setState((s) => ({ ...s, failed: error }));
      },
    );
    return () => {
      gone = true;
    };
  }, [service, day, frame, species, spawning, signs]);
  return { answer: state.answer, failed: failed ?? state.failed };
}

/** Logs a temperature profile: in the running trip, or in a short scouting trip of its own. */
function useLogProfile(): (samples: ProfileSample[]) => Promise<void> {
  const { water, running, log } = useWaterState();
  const queries = useQueryClient();
  return async (samples) => {
    const now = new Date().toISOString();
    let trip = running?.id;
    if (!trip) {
      trip = newId();
      const name = msg('brief.profile', { now: now.slice(0, 16) });
      const key = log.trips.some((t) => t.trip === name) ? `${name}:${now.slice(17, 23)}` : name;
      await keepAndSend('PUT /waters/:water/trips/:trip', { water: water.id, trip }, { trip: key, start: now, end: now, purpose: 'scout' });
    }
    const profile = now;
    await keepAndSend(
      'POST /trips/:trip/profiles',
      { trip },
      samples.map((s) => ({
        profile,
        time: now,
        depth_m: s.depth,
        temperature_c: s.temperature,
        oxygen_mg_l: s.oxygen ?? null,
        salinity: s.salinity ?? null,
      })),
    );
    const surface = samples.reduce((a, b) => (b.depth < a.depth ? b : a));
    await keepAndSend(
      'POST /trips/:trip/conditions',
      { trip },
      { time: now, surface_temperature_c: surface.temperature, salinity: surface.salinity ?? null },
    );
    await queries.invalidateQueries({ queryKey: ['log', water.id] });
  };
}

/** Before launch: which depths can hold fish today, how much of the water is left, what each strategy suggests. */
export function Brief() {
  const state = useWaterState();
  const { chart, species, water, day, sort, conditions, season, course, frame } = state;
  const { answer, failed } = useBrief();
  const logProfile = useLogProfile();
  const [typing, setTyping] = useState(false);
  const [map, setMap] = useState<'left' | 'waves'>('left');
  const [editing, setEditing] = useState(false);
  const [adding, setAdding] = useState(false);
  const beside = useMemo(() => {
    const logged = water.logged.flatMap((name) => water.species.find((s) => s.name === name) ?? []);
    const forage = (water.forage ?? []).flatMap((name) => water.species.find((s) => s.name === name) ?? []);
    return [...new Set([species, ...logged.filter((s) => !s.isForage).slice(0, 3), ...forage.slice(0, 1)])].slice(0, 4);
  }, [species, water]);
  const light = useMemo(() => lowLight(conditions.at, frame.latitude, frame.longitude), [conditions.at, frame.latitude, frame.longitude]);

  const rings = useMemo(() => {
    if (!chart || !water.outline) return [];
    const plane = metricPlane(chart.epsg);
    return outlineToRings(water.outline, (longitude, latitude) => plane.toMetric({ latitude, longitude }));
  }, [chart, water.outline]);
  if (!answer) return <Waiting what={msg('brief.theDay')} failed={failed} />;
  const { window, share, strategies, waves, heat } = answer;
  const zone = water.time_zone;
  // Layers that last for a season and their stability are of lakes.
  const { measuredTo, modelled, diurnal } = day.column;
  const notes = [
    ...(Math.abs(day.level) >= 0.1 ? [msg('brief.atLevel', { level: Math.abs(day.level), side: day.level > 0 ? 'above' : 'below' })] : []),
    ...(day.halocline
      ? [
          msg('brief.halocline', {
            top: day.halocline.top,
            bottom: day.halocline.bottom,
            above: decimal(day.halocline.above, 0),
            below: decimal(day.halocline.below, 0),
          }),
        ]
      : []),
    ...(diurnal ? [msg('brief.calmDayFilm', { depth: diurnal.bottom })] : []),
    ...(!modelled && measuredTo !== null && measuredTo < day.maxDepth - 0.5 ? [msg('brief.modelledBelow', { depth: measuredTo })] : []),
    ...(isSqueezed(window) ? [msg('brief.squeezed', { name: capital(term(species.name)) })] : []),
  ];
  const band = `/chart?band=${window.top.toFixed(1)}-${window.bottom.toFixed(1)}`;
  return (
    <div className="flex h-full flex-col max-md:block max-md:overflow-y-auto print:block print:h-auto" data-testid="brief">
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,430px)_minmax(0,1fr)_320px] overflow-y-auto max-xl:grid-cols-2 max-md:grid-cols-1 print:!grid-cols-[minmax(0,430px)_minmax(0,1fr)_320px] print:overflow-visible">
        <section className="border-line p-4 max-md:border-b md:border-r" aria-label={msg('brief.theWaterToday')}>
          <div className="mb-1 flex items-baseline justify-between gap-2 text-sm text-mute">
            <span className="whitespace-nowrap">
              <b className="text-ink">{msg('brief.theWaterToday')}</b>,{' '}
              {chart || water.deepest_m !== null
                ? msg('brief.deepestM', { deepest: day.maxDepth })
                : msg('brief.takenAsMDeep', { deepest: day.maxDepth })}
            </span>
            <span>
              {day.column.profileAt
                ? msg('brief.profileOfModelledSince', {
                    profileAt: inZone(day.column.profileAt, zone, { day: 'numeric', month: 'short' }),
                    modelled: day.column.modelled ? 'yes' : 'no',
                  })
                : day.column.ofSeason > 0.5
                  ? msg('brief.fromProfilesOfOther')
                  : msg('brief.noProfileYetModelled')}
            </span>
          </div>
          <BigColumn
            day={day}
            species={beside}
            chosen={species.name}
            spawning={season.stage === 'spawning'}
            tilt={answer.water.tilt}
            onThermocline={(thermoclineSet) => state.setWhatIf({ thermoclineSet })}
          />
          {notes.length > 0 && <p className="num mb-1 text-sm">{notes.join(' ')}</p>}
          {sort === 'coast' && <TideSection />}
          {sort === 'river' && (
            <p className="num text-sm">
              {day.stream ? msg('brief.riverRuns', { rate: day.stream.rate, to: compass(day.stream.set) }) : msg('brief.riverNotRead')}
            </p>
          )}
          {sort === 'lake' && (
            <p className="num text-sm text-mute">
              <b className="text-ink">{term(answer.water.state)}</b>
              {msg('brief.stabilityJMRed', {
                depth: answer.water.mixedLayer,
                stability: Math.round(answer.water.stability),
                value:
                  answer.water.lakeNumber !== null
                    ? msg('brief.lakeNumberThisWind', {
                        lakeNumber: decimal(answer.water.lakeNumber, 1),
                        lakeNumber2: answer.water.lakeNumber < 1 ? 'yes' : 'no',
                      })
                    : '',
              })}
            </p>
          )}
          <div className="mt-2 flex flex-wrap gap-2 print:hidden">
            <button type="button" className="btn touch-target" onClick={() => setTyping(true)}>
              <Thermometer size={18} aria-hidden /> {msg('brief.addTemperatureProfile')}
            </button>
            {sort === 'lake' && !day.column.thermocline && (
              <button
                type="button"
                className="btn touch-target"
                onClick={() =>
                  state.setWhatIf({ thermoclineSet: { top: Math.min(5, day.maxDepth * 0.4), bottom: Math.min(7, day.maxDepth * 0.6) } })
                }
              >
                {msg('brief.aThermoclineOnThe')}
              </button>
            )}
            <button type="button" className="btn touch-target" onClick={() => setEditing(true)}>
              <SlidersHorizontal size={18} aria-hidden /> {msg('brief.whatNeed', { name: term(species.name) })}
            </button>
            <button type="button" className="btn touch-target" onClick={() => setAdding(true)}>
              <Plus size={18} aria-hidden /> {msg('brief.addSpecies')}
            </button>
          </div>
        </section>
        <section className="min-w-0 border-line p-5 xl:border-r" aria-label={msg('brief.depths')}>
          <h1 className="text-[22px] font-bold leading-tight" data-testid="headline">
            {headline(term(species.name), window)}
            {!window.empty && share && <span className="block">{msg('brief.thatIsTheBottom', { bottom: percent(share.bottom) })}</span>}
          </h1>
          <p className="mt-1.5 text-[15px] text-mute">
            <b className="text-ink">{msg('brief.shallowEdge')}</b>: {say(window.topReason)}.<br />
            <b className="text-ink">{msg('brief.deepEdge')}</b>: {say(window.bottomReason)}.
            {!window.empty && share && (
              <>
                <br />
                {msg('brief.overAFurther')} <b className="num text-ink">{percent(share.over)}</b> {msg('brief.paleFishCanBe')}
              </>
            )}
          </p>
          {(light.windows.length > 0 || light.day !== 'usual') && (
            <p className="num mt-1.5 text-[15px] text-mute">
              {light.windows.length > 0 &&
                msg('brief.lowLight', {
                  light: light.windows.map((l) => `${term(l.name)} ${clockInZone(l.from, zone)}–${clockInZone(l.to, zone)}`).join(', '),
                })}
              {light.day !== 'usual' && ` ${msg(`light.${light.day}`)}`}
            </p>
          )}
          {heat.length > 0 && (
            <>
              <h2 className="mb-1 mt-4 text-sm text-mute">{msg('brief.warmerThanPreferFour', { name: term(species.name) })}</h2>
              <PlanTable rows={heat.map((r) => ({ name: msg(`title.${r.says.code}`), words: say(r.says), places: r.places }))} />
            </>
          )}
          <h2 className="mb-1 mt-4 text-sm text-mute">{msg('brief.whatEachStrategySuggests')}</h2>
          <PlanTable rows={strategies.map((r) => ({ name: strategyName(r.strategy), words: say(r.says), places: r.places }))} />
        </section>
        <aside
          className="flex flex-col gap-3 bg-surface p-4 max-xl:col-span-2 max-xl:border-t max-md:col-span-1 border-line print:!col-span-1"
          aria-label={msg('brief.fishableWaterAndCautions')}
        >
          {chart && share && waves && rings.length > 0 ? (
            <>
              <div className="flex items-baseline justify-between text-sm">
                <span role="radiogroup" aria-label={msg('brief.theSmallMapShows')} className="join">
                  {(['left', 'waves'] as const).map((m) => (
                    <button
                      key={m}
                      type="button"
                      role="radio"
                      aria-checked={map === m}
                      onClick={() => setMap(m)}
                      className={`btn join-item touch-target px-3 ${map === m ? 'font-bold' : 'btn-ghost font-normal'}`}
                    >
                      {m === 'left' ? msg('brief.fishableWater') : msg('brief.waves')}
                    </button>
                  ))}
                </span>
                <Link to={band} className="touch-target inline-flex items-center text-act underline print:hidden">
                  {msg('brief.openTheChart')}
                </Link>
              </div>
              <Link to={band} aria-label={msg('brief.openTheChartShaded')}>
                <LeftOfWater
                  waves={map === 'waves' ? answer.waveHeights : null}
                  chart={chart}
                  rings={rings}
                  window={window}
                  label={msg('brief.ofTheWaterHas', { bottom: percent(share.bottom), over: percent(share.over) })}
                />
              </Link>
              <p className="num text-sm text-mute">
                {waves.side === null
                  ? msg('brief.calm')
                  : msg('brief.wavesAtMS', { windFrom: compass(conditions.windFrom), windSpeed: conditions.windSpeed })}{' '}
                {waves.side !== null && (
                  <b className="text-ink">{msg('brief.upToMOn', { highest: waves.highest, side: compass(waves.side) })}</b>
                )}
              </p>
            </>
          ) : (
            <ToKnowMore />
          )}
          {answer.cautions.map((c) => (
            <p
              key={c.says.code}
              className="border-l-[5px] py-0.5 pl-3 text-sm leading-snug"
              style={{ borderColor: c.level === 'warning' ? 'var(--warn)' : 'var(--bait)' }}
            >
              <b>{msg(`title.${c.says.code}`)}</b> {say(c.says)}
            </p>
          ))}
          <button type="button" className="btn touch-target mt-auto print:hidden" onClick={() => globalThis.print()}>
            <Printer size={18} aria-hidden /> {msg('brief.printThisPage')}
          </button>
        </aside>
      </div>
      <section className="shrink-0 border-t border-line bg-surface px-4 py-2" aria-label={msg('brief.theSeason')}>
        <p className="flex flex-wrap justify-between gap-2 text-sm text-mute">
          <span>
            <b className="text-ink">{msg('brief.onThisWater', { name: capital(term(species.name)) })}</b>,{' '}
            {course.readings >= 12 ? msg('brief.fromReadingsOfIts', { readings: course.readings }) : msg('brief.mostlyFromItsLatitude')}
          </span>
          <span>{msg('brief.surfaceTemperatureThisYear')}</span>
        </p>
        <div className="overflow-x-auto" tabIndex={0} aria-label={msg('brief.theYearAsStages')}>
          <div className="max-md:w-[900px]">
            <Ribbon season={season} />
          </div>
        </div>
      </section>
      {editing && <ProfileSheet onClose={() => setEditing(false)} />}
      {adding && (
        <AddSpecies
          onAdded={() => {
            setAdding(false);
            setEditing(true);
          }}
          onClose={() => setAdding(false)}
        />
      )}
      {typing && <ProfileForm onSave={logProfile} onClose={() => setTyping(false)} />}
    </div>
  );
}

/** "Zander between 4.6 and 7.0 m." */
function headline(name: string, { top, bottom, empty }: BriefAnswer['window']): string {
  const title = capital(name);
  if (empty) return msg('brief.noSuitableDepthFor', { name });
  return top < 0.3
    ? msg('brief.fromTheSurfaceTo', { title, bottom: bottom })
    : msg('brief.betweenAndM', { title, top: top, bottom: bottom });
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
            <td className="py-1">{r.words}</td>
            <td className="num whitespace-nowrap py-1 pl-2 text-right text-mute">
              {r.places !== null && msg('brief.places', { places: r.places })}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

import { MapPin, X } from 'lucide-react';
import { useState } from 'react';
import { readWeather, simulatedWeather, weatherGaps, type WeatherFault } from '@restless-shoal/core/passage';
import { SPEED_FACTOR } from '@restless-shoal/core/units';
import { FileButton } from '../../parts/file-button';
import { clockInZone } from '../../parts/format';
import { NumberRow } from '../../parts/number-row';
import { readNumber } from '../../parts/read-number';
import { Segments } from '../../parts/segments';
import { useUnits } from '../../state/units';
import { useWaterState } from '../../state/water';
import { formatSpeed, plain, plan as msg } from '../../words';
import type { PlanSettings } from './settings';
import type { PlannedSpan } from './span';

/** Places of the day that are set by a tap on the map. */
const DAY_PLACES = ['ramp', 'finish'] as const;
export type DayPlace = (typeof DAY_PLACES)[number];

/** When, from where, with what boat, in what weather: what the plan is made by. */
export function DaySettings({
  settings,
  span,
  goal,
  placing,
  onChange,
  onPlace,
}: {
  settings: PlanSettings;
  span: PlannedSpan;
  /** As it is set, or as the trip that runs has it. */
  goal: 'action' | 'size';
  /** Which place the next tap on the map sets. */
  placing: DayPlace | null;
  onChange: (change: Partial<PlanSettings>) => void;
  onPlace: (place: DayPlace | null) => void;
}) {
  const { water, conditions } = useWaterState();
  const { speed: speedUnit } = useUnits();
  const zone = water.time_zone;
  const [faults, setFaults] = useState<WeatherFault[]>([]);
  const [failed, setFailed] = useState<string | null>(null);
  const clock = (ms: number): string => clockInZone(new Date(ms), zone);
  const read = async (text: string): Promise<void> => {
    try {
      const found = await readWeather(text);
      setFaults(found.faults);
      setFailed(null);
      onChange({ weather: found.hours });
    } catch (error) {
      setFailed((error as Error).message);
    }
  };
  const gaps = settings.weather.length ? weatherGaps(settings.weather, span.from, span.to) : [];
  const time = 'input num h-11 w-28';
  const factor = 1 / SPEED_FACTOR[speedUnit];
  const cruise = plain(settings.cruise / factor, 1);
  return (
    <div className="border-b border-line px-3 py-2">
      <div className="flex flex-wrap items-center gap-2">
        <label className="flex items-center gap-1.5">
          <span className="text-mute">{msg('day.from')}</span>
          <input
            type="time"
            className={time}
            aria-label={msg('day.starts')}
            value={span.fromClock}
            onChange={(e) => onChange({ from: e.target.value || null })}
          />
        </label>
        <label className="flex items-center gap-1.5">
          <span className="text-mute">{msg('day.to')}</span>
          <input
            type="time"
            className={time}
            aria-label={msg('day.ends')}
            value={span.toClock}
            onChange={(e) => onChange({ to: e.target.value || null })}
          />
        </label>
      </div>
      <details className="mt-1">
        <summary className="min-h-9 cursor-pointer py-1.5 font-semibold">{msg('day.more')}</summary>
        <div className="flex flex-wrap gap-2">
          {DAY_PLACES.map((place) => (
            <button
              key={place}
              type="button"
              className={`btn touch-target flex-1 justify-start font-normal ${placing === place ? 'btn-primary' : ''}`}
              aria-pressed={placing === place}
              onClick={() => onPlace(placing === place ? null : place)}
            >
              <MapPin size={18} aria-hidden className="shrink-0" /> {msg(placing === place ? `tapPlace.${place}` : `setPlace.${place}`)}
            </button>
          ))}
          {settings.finish && (
            <button type="button" className="btn btn-ghost touch-target" onClick={() => onChange({ finish: null })}>
              <X size={16} aria-hidden /> {msg('day.backToRamp')}
            </button>
          )}
        </div>
        <div className="mt-2">
          <Segments<'action' | 'size'>
            label={msg('day.goal')}
            value={goal}
            options={[
              ['action', msg('day.anyFish')],
              ['size', msg('day.largeFish')],
            ]}
            onChange={(goal) => onChange({ goal })}
          />
        </div>
        <div className="mt-2">
          <Segments<PlanSettings['stops']>
            label={msg('day.stops')}
            value={settings.stops}
            options={[
              ['short', msg('day.short')],
              ['any', msg('day.any')],
              ['long', msg('day.long')],
            ]}
            onChange={(stops) => onChange({ stops })}
          />
        </div>
        <NumberRow
          label={msg('day.scouting')}
          unit="min"
          value={String(settings.scouting)}
          onChange={(v) => within(readNumber(v), 0, 720, (scouting) => onChange({ scouting: Math.round(scouting) }))}
        />
        <NumberRow
          label={msg('day.rods')}
          unit=""
          value={String(settings.rods)}
          onChange={(v) => within(readNumber(v), 1, 20, (rods) => onChange({ rods: Math.round(rods) }))}
        />
        <NumberRow
          label={msg('day.cruise')}
          unit={speedUnit}
          value={cruise}
          onChange={(v) => within(readNumber(v) * factor, 0.5, 40, (cruise) => onChange({ cruise }))}
        />
        <NumberRow
          label={msg('day.draught')}
          unit="m"
          value={plain(settings.draught, 2)}
          onChange={(v) => within(readNumber(v), 0.05, 10, (draught) => onChange({ draught }))}
        />
        <NumberRow
          label={msg('day.waveLimit')}
          unit="m"
          value={settings.waveLimit === null ? '' : plain(settings.waveLimit, 2)}
          onChange={(v) =>
            v.trim() === '' ? onChange({ waveLimit: null }) : within(readNumber(v), 0.05, 5, (waveLimit) => onChange({ waveLimit }))
          }
        />
        <NumberRow
          label={msg('day.burns')}
          unit="l/h"
          value={settings.fuel ? plain(settings.fuel.cruise, 1) : ''}
          onChange={(v) =>
            v.trim() === ''
              ? onChange({ fuel: null })
              : within(readNumber(v), 0.1, 500, (cruise) => onChange({ fuel: { most: 20, ...settings.fuel, cruise } }))
          }
        />
        {settings.fuel && (
          <NumberRow
            label={msg('day.tank')}
            unit="l"
            value={plain(settings.fuel.most, 1)}
            onChange={(v) => within(readNumber(v), 0.1, 5000, (most) => onChange({ fuel: { ...settings.fuel!, most } }))}
          />
        )}
        <h3 className="mt-2 font-semibold">{msg('day.weather')}</h3>
        <p className="text-sm text-mute">
          {settings.weather.length
            ? msg('day.weatherHours', {
                hours: settings.weather.length,
                from: clock(settings.weather[0].at),
                to: clock(settings.weather.at(-1)!.at),
              })
            : msg('day.noWeather', { wind: formatSpeed(Math.round(conditions.windSpeed)) })}
        </p>
        {gaps.length > 0 && (
          <p className="text-sm text-warn">{msg('day.gaps', { gaps: gaps.map(([a, b]) => `${clock(a)}–${clock(b)}`).join(', ') })}</p>
        )}
        {failed && (
          <p role="alert" className="text-sm text-warn">
            {failed}
          </p>
        )}
        {faults.length > 0 && (
          <ul className="text-sm text-warn">
            {faults.slice(0, 5).map((f, i) => (
              <li key={i}>{msg('day.fault', { line: f.line, column: f.column, reason: f.reason, value: f.value })}</li>
            ))}
          </ul>
        )}
        <div className="mt-1 flex flex-wrap gap-2">
          <FileButton label={msg('day.importWeather')} onText={(text) => void read(text)} />
          <button
            type="button"
            className="btn btn-sm touch-target"
            onClick={() =>
              onChange({
                weather: simulatedWeather(
                  span.from,
                  span.to,
                  {
                    windFrom: conditions.windFrom,
                    windSpeed: conditions.windSpeed,
                    cloud: conditions.cloud ?? 0.5,
                    airTemperature: null,
                    pressure: null,
                  },
                  Math.round((water.longitude ?? 0) / 15),
                ),
              })
            }
          >
            {msg('day.simulate')}
          </button>
          {settings.weather.length > 0 && (
            <button type="button" className="btn btn-ghost btn-sm touch-target" onClick={() => onChange({ weather: [] })}>
              <X size={16} aria-hidden /> {msg('day.noTable')}
            </button>
          )}
        </div>
      </details>
    </div>
  );
}

/** Takes a number that makes sense, and leaves what does not. */
function within(value: number, least: number, most: number, take: (value: number) => void): void {
  if (value >= least && value <= most) take(value);
}

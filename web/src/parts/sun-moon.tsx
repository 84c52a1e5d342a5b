import { Moon, Sun } from 'lucide-react';
import { sunAndMoon } from '@restless-shoal/core/lake';
import { useWaterState } from '../state/water';
import { decimal, parts as msg } from '../words';
import { clockInZone } from './format';

/** Eighths of the moon's month, from new moon on. */
const PHASES = [
  'new',
  'waxingCrescent',
  'firstQuarter',
  'waxingGibbous',
  'full',
  'waningGibbous',
  'lastQuarter',
  'waningCrescent',
] as const;

/** When sun and moon rise and set on a day at the water, and how much of the moon is lit: worked out, not read. */
export function SunMoon({ day }: { day: Date }) {
  const { water, frame } = useWaterState();
  // Where nobody said where the water lies there is nothing to tell.
  if (!water.outline && water.latitude === null) return null;
  const { sunrise, sunset, moonrise, moonset, lit, phase } = sunAndMoon(day, frame.latitude, frame.longitude);
  const clock = (at: Date | null): string => (at ? clockInZone(at, water.time_zone) : '–');
  return (
    <p className="num flex flex-wrap gap-x-4 text-mute">
      <span className="flex items-center gap-1.5">
        <Sun size={16} aria-hidden /> {msg('sunMoon.sun', { rise: clock(sunrise), set: clock(sunset) })}
      </span>
      <span className="flex items-center gap-1.5">
        <Moon size={16} aria-hidden />{' '}
        {msg('sunMoon.moon', {
          phase: msg(`moon.${PHASES[Math.round(phase * 8) % 8]}`),
          lit: decimal(100 * lit, 0),
          rise: clock(moonrise),
          set: clock(moonset),
        })}
      </span>
    </p>
  );
}

import { TriangleAlert } from 'lucide-react';
import { thunderFrom, windAgainstTideFrom, windOfDay } from '@restless-shoal/core/passage';
import { useMemo } from 'react';
import { clockInZone } from '../../parts/format';
import { useWaterState } from '../../state/water';
import { plan as msg } from '../../words';
import type { PlanSettings } from './settings';
import type { PlannedSpan } from './span';

/** Colder water than this is a danger by itself, °C. */
const COLD = 12;

/** What to mind on the day: thunder by the table, cold water. They advise; the skipper decides. */
export function DayCautions({ settings, span }: { settings: PlanSettings; span: PlannedSpan }) {
  const { conditions, water } = useWaterState();
  const thunder = thunderFrom(settings.weather, span.from, span.to);
  const { windFrom, windSpeed } = conditions;
  const steep = useMemo(
    () => windAgainstTideFrom(water.tide, windOfDay(settings.weather, { windFrom, windSpeed }), span.from, span.to),
    [water.tide, span.from, span.to, settings.weather, windFrom, windSpeed],
  );
  const words = [
    thunder !== null && msg('day.thunder', { at: clockInZone(new Date(thunder), water.time_zone) }),
    steep !== null && msg('day.windAgainstTide', { at: clockInZone(new Date(steep), water.time_zone) }),
    conditions.surface < COLD && msg('day.cold', { surface: conditions.surface }),
  ].filter((w) => w !== false);
  if (!words.length) return null;
  return (
    <ul className="space-y-1 px-3 pt-2 text-sm text-warn" aria-label={msg('day.cautions')}>
      {words.map((w) => (
        <li key={w} className="flex gap-1.5">
          <TriangleAlert size={16} aria-hidden className="mt-0.5 shrink-0" />
          {w}
        </li>
      ))}
    </ul>
  );
}

import { useMemo } from 'react';
import { spotYield, type YieldBand } from '@restless-shoal/core/patterns';
import { useSpotStops, type SpotYield } from '../../api/queries';
import { compass } from '../format';
import { useWaterState } from '../../state/water';
import { formatDepth, formatSpeed, formatTemperature, logbook as msg } from '../../words';
import { YieldTable } from './yield-table';

function bandWords({ condition, range, state, from }: YieldBand): string {
  if (state !== null) return msg(`spotConditions.${state}`);
  if (from !== null) return compass(from);
  const measure = condition === 'temperature' ? formatTemperature : condition === 'clarity' ? formatDepth : formatSpeed;
  const [least, most] = range!;
  if (least === -Infinity || (least <= 0 && condition !== 'temperature')) return msg('spotConditions.below', { to: measure(most) });
  return most === Infinity
    ? msg('spotConditions.above', { from: measure(least) })
    : msg('spotConditions.between', { from: measure(least), to: measure(most) });
}

/** What a spot yielded by temperature, clarity, wind, light and tide: each that tells its stops apart. */
export function SpotConditions({ spot }: { spot: SpotYield }) {
  const { water } = useWaterState();
  const { data: stops, error } = useSpotStops(water.id, spot.id);
  const bands = useMemo(() => (stops ? spotYield(stops, spot, water.tide ?? null) : []), [stops, spot, water.tide]);
  const conditions = [...new Set(bands.map((b) => b.condition))];
  if (error && !stops) return <p className="mt-3 text-sm text-mute">{msg('spotConditions.needTheServer')}</p>;
  return conditions.map((condition) => (
    <YieldTable
      key={condition}
      caption={msg(`spotConditions.by.${condition}`)}
      of={msg(`spotConditions.of.${condition}`)}
      rows={bands.filter((b) => b.condition === condition).map((b) => ({ ...b, name: bandWords(b) }))}
    />
  ));
}

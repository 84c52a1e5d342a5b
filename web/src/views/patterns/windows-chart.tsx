import type { DayWindow } from '@restless-shoal/core/patterns';
import { EChart, hoverWords } from '../../parts/e-chart';
import { inZone, METRES_PER, type DepthUnit, depthRange } from '../../parts/format';
import { patterns as msg } from '../../words';

interface WindowsChartProps {
  days: DayWindow[];
  by: 'byBottom' | 'byTarget';
  zone: string | null;
  onPress: (trip: number) => void;
  onReady: (picture: (() => string) | null) => void;
}

/** A window is drawn strongly when it would be as narrow by chance no more often than this. */
const CHANCE = 0.1;

/** The shape of what a custom series is drawn with. */
interface Api {
  coord: (p: [number, number]) => [number, number];
  size: (p: [number, number]) => [number, number];
  value: (dimension: number) => number;
}

/** The depth window of each day, over where the boat looked; the thermocline as a wave. */
export function WindowsChart({ days, by, zone, onPress, onReady }: WindowsChartProps) {
  const shown = days.filter((d) => d.contacts > 0).slice(-30);
  const deepest = Math.max(5, ...shown.map((d) => Math.max(d.looked[1], d[by]?.bottom ?? 0)));
  /** A quarter of the axis: whole metres, or as many feet as one counts in. */
  const step = (unit: DepthUnit): number =>
    unit === 'm' ? Math.ceil(deepest / 4) : 5 * Math.ceil(deepest / METRES_PER.ft / 20) * METRES_PER.ft;
  return (
    <EChart
      label={msg('windowsChart.depthWindowOfDays', { shown: shown.length })}
      of={`${by} ${JSON.stringify(shown)}`}
      onPress={({ dataIndex }) => shown[dataIndex] && onPress(shown[dataIndex].trip)}
      onReady={onReady}
      option={({ css, font, tooltip, units }) => ({
        textStyle: font,
        grid: { left: 38, right: 10, top: 8, bottom: 26 },
        tooltip: {
          ...tooltip,
          trigger: 'axis',
          axisPointer: { type: 'shadow' },
          formatter: (params: { dataIndex: number }[]) => {
            const d = shown[params[0].dataIndex];
            const w = d[by];
            return hoverWords(
              inZone(new Date(d.at), zone, { weekday: 'short', day: 'numeric', month: 'short', year: 'numeric' }),
              w
                ? msg('windowsChart.mTopMBottom', {
                    top: w.top,
                    bottom: w.bottom,
                    topRange: depthRange(...w.topRange),
                    bottomRange: depthRange(...w.bottomRange),
                  })
                : msg('windowsChart.tooFewContactsFor'),
              w && msg('windowsChart.chanceOfOneAs', { chance: w.chance < 0.01 ? msg('windowsChart.under') : Math.round(100 * w.chance) }),
              msg('windowsChart.contactsLookedAtM', {
                contacts: d.contacts,
                looked: depthRange(...d.looked),
                surface: d.surface,
              }),
            );
          },
        },
        xAxis: {
          type: 'category',
          data: shown.map((d) => inZone(new Date(d.at), zone, { day: 'numeric', month: 'short' })),
          axisLabel: { ...font, fontSize: 12, hideOverlap: true },
          axisTick: { show: false },
          axisLine: { show: false },
        },
        yAxis: {
          type: 'value',
          inverse: true,
          min: 0,
          max: 4 * step(units.depth),
          interval: step(units.depth),
          axisLabel: {
            ...font,
            color: css('--mute'),
            formatter: (v: number) => `${Math.round(v / METRES_PER[units.depth])} ${units.depth}`,
          },
          splitLine: { lineStyle: { color: css('--line') } },
        },
        series: [
          {
            type: 'custom',
            data: shown.map((d, i) => [i, ...d.looked]),
            encode: { x: 0, y: [1, 2] },
            silent: true,
            renderItem: (_: unknown, api: Api) => box(api, css('--w1'), 0.45, 1, 2, 0.62),
          },
          {
            type: 'custom',
            data: shown.map((d, i) => [i, d[by]?.top ?? NaN, d[by]?.bottom ?? NaN, d[by]?.chance ?? 1]),
            encode: { x: 0, y: [1, 2] },
            renderItem: (_: unknown, api: Api) => box(api, css('--fish'), api.value(3) <= CHANCE ? 0.95 : 0.35, 1, 2, 0.62),
          },
          {
            type: 'custom',
            data: shown.map((d, i) => [i, d.thermocline ?? NaN]),
            encode: { x: 0, y: 1 },
            silent: true,
            renderItem: (_: unknown, api: Api) => {
              if (Number.isNaN(api.value(1))) return null;
              const [x, y] = api.coord([api.value(0), api.value(1)]);
              const half = api.size([1, 0])[0] * 0.5;
              const points = Array.from({ length: 13 }, (_v, k) => [x - half + (half * k) / 6, y + 2.2 * Math.sin((k * Math.PI) / 3)]);
              return { type: 'polyline', shape: { points }, style: { stroke: css('--therm'), lineWidth: 2, fill: null } };
            },
          },
        ],
      })}
    />
  );
}

/** A box between two depths in the middle of a day. */
function box(api: Api, fill: string, opacity: number, top: number, bottom: number, share: number): Record<string, unknown> | null {
  if (Number.isNaN(api.value(top))) return null;
  const [x, y0] = api.coord([api.value(0), api.value(top)]);
  const [, y1] = api.coord([api.value(0), api.value(bottom)]);
  const width = api.size([1, 0])[0] * share;
  return {
    type: 'rect',
    shape: { x: x - width / 2, y: y0, width, height: Math.max(3, y1 - y0), r: 3 },
    style: { fill, opacity },
  };
}

export const windowRows = (days: DayWindow[], by: 'byBottom' | 'byTarget'): (string | number | null)[][] => [
  ['day', 'contacts', 'top_m', 'bottom_m', 'as_narrow_by_chance', 'looked_from_m', 'looked_to_m', 'surface_temperature_c', 'thermocline_m'],
  ...days.map((d) => {
    const w = d[by];
    return [
      new Date(d.at).toISOString(),
      d.contacts,
      w?.top ?? null,
      w?.bottom ?? null,
      w?.chance ?? null,
      ...d.looked,
      d.surface,
      d.thermocline,
    ];
  }),
];

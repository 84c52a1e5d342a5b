import { covariate, type HeatCell } from '@restless-shoal/core/patterns';
import { EChart, hoverWords } from '../../parts/e-chart';
import { grouped } from '../../parts/format';
import { times } from './words';
import { numbersIn, unitIn, type UnitSystem } from '@restless-shoal/core/units';

interface HeatProps {
  keys: [string, string];
  cells: HeatCell[];
  names: [string[], string[]];
  onPress: (cell: HeatCell) => void;
  onReady: (picture: (() => string) | null) => void;
}

/** Looks below which a cell is only outlined. */
const LEAST = 15;

/** A colour of the theme (#rrggbb) let through. */
const faded = (colour: string, share: number): string =>
  `${colour}${Math.round(255 * share)
    .toString(16)
    .padStart(2, '0')}`;

/** Two covariates against each other: contacts a hectare with the looks in each cell, deeper colour for more than the rest of the same trips. */
export function HeatTable({ keys, cells, names, onPress, onReady }: HeatProps) {
  const of = (units: UnitSystem, k: 0 | 1, n: number): string => {
    const { unit } = covariate(keys[k]);
    return `${numbersIn(units, unit, names[k][n])} ${unitIn(units, unit)}`;
  };
  const most = Math.max(1.5, ...cells.filter((c) => c.looks >= LEAST).map((c) => c.rate));
  return (
    <EChart
      label={`${covariate(keys[0]).name} against ${covariate(keys[1]).name}: contacts a hectare with the number of looks; the CSV holds the same numbers`}
      of={JSON.stringify([keys, cells, names])}
      onPress={({ dataIndex }) => cells[dataIndex] && onPress(cells[dataIndex])}
      onReady={onReady}
      option={({ css, font, tooltip, units }) => ({
        textStyle: font,
        grid: { left: 8, right: 8, top: 26, bottom: 4, containLabel: true },
        tooltip: {
          ...tooltip,
          formatter: ({ dataIndex }: { dataIndex: number }) => {
            const c = cells[dataIndex];
            const r = c.against;
            return hoverWords(
              `${of(units, 0, c.a)} · ${of(units, 1, c.b)}`,
              `${c.rate.toFixed(2)} a hectare, ${c.used} contacts`,
              `${c.looks} looks on ${c.trips} trips`,
              Number.isNaN(r.low)
                ? 'too little to compare with the rest'
                : `${times(r.ratio)} times the rest of the same trips (${times(r.low)}–${times(r.high)})`,
            );
          },
        },
        xAxis: {
          type: 'category',
          data: names[1].map((name) => numbersIn(units, covariate(keys[1]).unit, name)),
          position: 'top',
          axisLabel: { ...font, fontSize: 12, interval: 0, hideOverlap: true },
          axisTick: { show: false },
          axisLine: { show: false },
        },
        yAxis: {
          type: 'category',
          data: names[0].map((name) => numbersIn(units, covariate(keys[0]).unit, name)),
          inverse: true,
          axisLabel: { ...font, fontSize: 12 },
          axisTick: { show: false },
          axisLine: { show: false },
        },
        series: [
          {
            type: 'heatmap',
            data: cells.map((c) => ({
              value: [c.b, c.a, c.rate],
              itemStyle: {
                color: c.looks >= LEAST ? faded(css('--fish'), 0.08 + 0.6 * Math.min(1, c.rate / most)) : css('--surface'),
                borderColor: c.looks >= LEAST ? css('--surface') : css('--line'),
                borderWidth: 2,
                borderRadius: 5,
              },
            })),
            label: {
              show: true,
              formatter: ({ dataIndex }: { dataIndex: number }) =>
                names[1].length > 6
                  ? `{r|${cells[dataIndex].rate.toFixed(1)}}`
                  : `{r|${cells[dataIndex].rate.toFixed(1)}}${names[0].length > 4 ? ' ' : '\n'}{n|${grouped(cells[dataIndex].looks)}}`,
              rich: {
                r: { fontSize: 15, fontWeight: 700, color: css('--ink'), fontFamily: font.fontFamily, lineHeight: 17 },
                n: { fontSize: 11, color: css('--ink'), fontFamily: font.fontFamily },
              },
            },
          },
        ],
      })}
    />
  );
}

export const heatRows = ({ keys, cells, names }: Pick<HeatProps, 'keys' | 'cells' | 'names'>): (string | number | null)[][] => [
  [covariate(keys[0]).name, covariate(keys[1]).name, 'per_hectare', 'contacts', 'looks', 'trips', 'times_the_rest', 'low', 'high'],
  ...cells.map((c) => [names[0][c.a], names[1][c.b], c.rate, c.used, c.looks, c.trips, c.against.ratio, c.against.low, c.against.high]),
];

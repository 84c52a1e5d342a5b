import { classLabel, covariate, labelKey, type HeatCell } from '@restless-shoal/core/patterns';
import { EChart, hoverWords } from '../../parts/e-chart';
import { grouped } from '../../parts/format';
import { times } from './class-words';
import { patterns as msg, covariateName, decimal, labelWords } from '../../words';

interface HeatProps {
  keys: [string, string];
  cells: HeatCell[];
  classes: [number[], number[]];
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
export function HeatTable({ keys, cells, classes, onPress, onReady }: HeatProps) {
  const labels = [0, 1].map((k) => classes[k].map((c) => classLabel(covariate(keys[k]), c)));
  const most = Math.max(1.5, ...cells.filter((c) => c.looks >= LEAST).map((c) => c.rate));
  return (
    <EChart
      label={msg('heatTable.againstContactsAHectare', { name: covariateName(keys[0]), name2: covariateName(keys[1]) })}
      of={JSON.stringify([keys, cells, classes])}
      onPress={({ dataIndex }) => cells[dataIndex] && onPress(cells[dataIndex])}
      onReady={onReady}
      option={({ css, font, tooltip }) => ({
        textStyle: font,
        grid: { left: 8, right: 8, top: 26, bottom: 4, containLabel: true },
        tooltip: {
          ...tooltip,
          formatter: ({ dataIndex }: { dataIndex: number }) => {
            const c = cells[dataIndex];
            const r = c.against;
            return hoverWords(
              `${labelWords(labels[0][c.a])} · ${labelWords(labels[1][c.b])}`,
              msg('heatTable.aHectareContacts', { rate: decimal(c.rate, 2), used: c.used }),
              msg('heatTable.looksOnTrips', { looks: c.looks, trips: c.trips }),
              Number.isNaN(r.low)
                ? msg('heatTable.notEnoughDataTo')
                : msg('heatTable.timesTheRestOf', { ratio: times(r.ratio), low: times(r.low), high: times(r.high) }),
            );
          },
        },
        xAxis: {
          type: 'category',
          data: labels[1].map((l) => labelWords(l, false)),
          position: 'top',
          axisLabel: { ...font, fontSize: 12, interval: 0, hideOverlap: true },
          axisTick: { show: false },
          axisLine: { show: false },
        },
        yAxis: {
          type: 'category',
          data: labels[0].map((l) => labelWords(l, false)),
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
                classes[1].length > 6
                  ? `{r|${decimal(cells[dataIndex].rate, 1)}}`
                  : `{r|${decimal(cells[dataIndex].rate, 1)}}${classes[0].length > 4 ? ' ' : '\n'}{n|${grouped(cells[dataIndex].looks)}}`,
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

/** As it stands in a CSV: in SI, whatever the reader's units. */
const rowName = (key: string, k: number): string => labelKey(classLabel(covariate(key), k));

export const heatRows = ({ keys, cells, classes }: Pick<HeatProps, 'keys' | 'cells' | 'classes'>): (string | number | null)[][] => [
  [covariateName(keys[0]), covariateName(keys[1]), 'per_hectare', 'contacts', 'looks', 'trips', 'times_the_rest', 'low', 'high'],
  ...cells.map((c) => [
    rowName(keys[0], classes[0][c.a]),
    rowName(keys[1], classes[1][c.b]),
    c.rate,
    c.used,
    c.looks,
    c.trips,
    c.against.ratio,
    c.against.low,
    c.against.high,
  ]),
];

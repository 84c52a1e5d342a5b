import { covariate, labelKey, type WhereAnswer } from '@restless-shoal/core/patterns';
import { type ChartLook, type ChartOption, EChart, hoverWords } from '../../parts/e-chart';
import { shortLabel, times } from './class-words';
import { stepText, patterns as msg, covariateName, decimal, inUnit, labelWords, readUnit, plain } from '../../words';

interface WhereChartProps {
  answer: WhereAnswer;
  beside: { answer: WhereAnswer; name: string } | null;
  smooth: boolean;
  onPress: (index: number) => void;
  onReady: (picture: (() => string) | null) => void;
}

const withUnit = (key: string, read: (unit: string) => string = (unit) => readUnit(unit)): string => {
  const { unit } = covariate(key);
  return unit ? `${covariateName(key)}, ${read(unit)}` : covariateName(key);
};

/** Highest ratio that is drawn. */
function ceiling(values: number[]): number {
  const most = Math.max(2, ...values.filter((v) => Number.isFinite(v)));
  return Math.min(8, Math.ceil(most * 2) / 2);
}

/** Times what chance would give, with its band, above hectares looked at. */
export function WhereChart({ answer, beside, smooth, onPress, onReady }: WhereChartProps) {
  const curve = smooth ? answer.curve : null;
  return (
    <EChart
      label={msg('whereChart.timesAsOftenAs', { name: covariateName(answer.key) })}
      of={[answer, beside?.answer, curve].map((a) => a && JSON.stringify(a)).join()}
      option={(look) => (curve ? smoothOption(answer, beside, look) : classOption(answer, beside, look))}
      onPress={({ dataIndex }) => onPress(dataIndex)}
      onReady={onReady}
    />
  );
}

function classOption({ key, classes }: WhereAnswer, beside: WhereChartProps['beside'], { css, font, tooltip }: ChartLook): ChartOption {
  const names = classes.map((c) => shortLabel(c.label));
  const other = beside && new Map(beside.answer.classes.map((c) => [c.class, c]));
  const top = ceiling(classes.flatMap((c) => [Math.min(c.high, 2.2 * c.ratio), other?.get(c.class)?.ratio ?? 0]));
  const cut = (v: number): number | null => (Number.isFinite(v) ? Math.min(v, top) : null);
  const best = classes.filter((c) => c.low > 1).reduce<(typeof classes)[number] | null>((a, b) => (!a || b.ratio > a.ratio ? b : a), null);
  const words = covariate(key).labels !== undefined;
  return {
    textStyle: font,
    grid: [
      { left: 44, right: 14, top: 26, bottom: words ? 158 : 126 },
      { left: 44, right: 14, height: 60, bottom: words ? 82 : 50 },
    ],
    tooltip: {
      ...tooltip,
      trigger: 'axis',
      axisPointer: { type: 'shadow' },
      formatter: (params: { dataIndex: number }[]) => {
        const c = classes[params[0].dataIndex];
        const o = other?.get(c.class);
        return hoverWords(
          labelWords(c.label),
          Number.isNaN(c.ratio)
            ? msg('whereChart.nothingToExpect')
            : msg('whereChart.timesAsOftenAs2', {
                ratio: times(c.ratio),
                low: Number.isNaN(c.low) ? '' : ` (${times(c.low)}–${times(c.high)})`,
              }),
          msg('whereChart.seenExpectedJacobsD', { used: c.used, expected: decimal(c.expected, 1), jacobs: decimal(c.jacobs, 2) }),
          msg('whereChart.haAsFarAs', { effort: 10_000 * c.effort, looks: c.looks, trips: c.trips }),
          o &&
            msg('whereChart.seen', {
              name: beside!.name,
              ratio: Number.isNaN(o.ratio) ? msg('whereChart.nothingToExpect') : msg('whereChart.times', { ratio: times(o.ratio) }),
              used: o.used,
            }),
          msg('whereChart.tapToSeeThem'),
        );
      },
    },
    axisPointer: { link: [{ xAxisIndex: 'all' }] },
    xAxis: [
      { type: 'category', data: names, gridIndex: 0, axisLabel: { show: false }, axisTick: { show: false }, axisLine: { show: false } },
      {
        type: 'category',
        data: names,
        gridIndex: 1,
        position: 'bottom',
        axisLabel: { ...font, fontSize: 12, interval: 0, rotate: words ? 35 : 0, hideOverlap: !words },
        axisTick: { show: false },
        axisLine: { lineStyle: { color: css('--line') } },
        name: msg('whereChart.theBarsHectaresLooked', { key: withUnit(key) }),
        nameLocation: 'middle',
        nameGap: words ? 66 : 28,
        nameTextStyle: { ...font, color: css('--mute') },
      },
    ],
    yAxis: [
      {
        type: 'value',
        gridIndex: 0,
        min: 0,
        max: top,
        interval: top > 4 ? 2 : 1,
        axisLabel: { ...font, color: css('--mute'), formatter: (v: number) => `${plain(v, 1)}×` },
        splitLine: { lineStyle: { color: css('--line') } },
      },
      {
        type: 'value',
        gridIndex: 1,
        inverse: true,
        max: 1.4 * Math.max(...classes.map((c) => c.effort)),
        axisLabel: { show: false },
        splitLine: { show: false },
        axisLine: { show: false },
      },
    ],
    series: [
      ...(words ? [whiskers(classes, cut, css('--fish'))] : band(classes, cut, css('--fish'))),
      {
        type: 'line',
        data: classes.map((c) => ({
          value: cut(c.ratio),
          label: {
            show: c === best,
            position: 'top',
            formatter: msg('whereChart.timesAsOftenAs3', { ratio: times(c.ratio) }),
            color: css('--fish'),
            backgroundColor: css('--ground'),
            padding: [1, 4],
            fontWeight: 700,
            fontSize: 15,
            fontFamily: font.fontFamily,
          },
        })),
        symbol: 'circle',
        symbolSize: 11,
        triggerLineEvent: true,
        lineStyle: { color: css('--fish'), width: words ? 0 : 3.5 },
        itemStyle: { color: css('--fish') },
        markLine: byChance(css, font.fontFamily),
      },
      ...(other
        ? [
            {
              type: 'line',
              data: classes.map((c) => cut(other.get(c.class)?.ratio ?? NaN)),
              symbol: 'diamond',
              symbolSize: 10,
              silent: true,
              lineStyle: { color: css('--act'), width: words ? 0 : 2.5, type: 'dashed' },
              itemStyle: { color: css('--act') },
            },
          ]
        : []),
      {
        type: 'bar',
        xAxisIndex: 1,
        yAxisIndex: 1,
        data: classes.map((c) => Number(c.effort.toFixed(2))),
        itemStyle: { color: css('--w2') },
        barWidth: '72%',
        label: {
          show: true,
          position: 'bottom',
          distance: 8,
          formatter: (p: { value: number }) => decimal(p.value, p.value >= 10 ? 0 : 1),
          color: css('--ink'),
          fontFamily: font.fontFamily,
          fontSize: 12,
        },
      },
    ],
  };
}

type Cut = (v: number) => number | null;

/** The interval as a band, where classes lie in order. */
const band = (classes: WhereAnswer['classes'], cut: Cut, colour: string): object[] => [
  { type: 'line', data: classes.map((c) => cut(c.low)), stack: 'band', symbol: 'none', lineStyle: { opacity: 0 }, silent: true },
  {
    type: 'line',
    data: classes.map((c) => (Number.isFinite(c.high) ? cut(c.high)! - cut(c.low)! : null)),
    stack: 'band',
    symbol: 'none',
    lineStyle: { opacity: 0 },
    areaStyle: { color: colour, opacity: 0.2 },
    silent: true,
  },
];

/** The interval as a bar of its own for each class, where classes have no order. */
const whiskers = (classes: WhereAnswer['classes'], cut: Cut, colour: string): object => ({
  type: 'custom',
  silent: true,
  data: classes.map((c, i) => [i, cut(c.low) ?? NaN, cut(c.high) ?? NaN]),
  encode: { x: 0, y: [1, 2] },
  renderItem: (_: unknown, api: { coord: (p: [number, number]) => [number, number]; value: (k: number) => number }) => {
    if (Number.isNaN(api.value(1)) || Number.isNaN(api.value(2))) return null;
    const [x, y0] = api.coord([api.value(0), api.value(1)]);
    const [, y1] = api.coord([api.value(0), api.value(2)]);
    return {
      type: 'rect',
      shape: { x: x - 7, y: y1, width: 14, height: Math.max(2, y0 - y1), r: 4 },
      style: { fill: colour, opacity: 0.28 },
    };
  },
});

/** The line at 1. */
const byChance = (css: ChartLook['css'], fontFamily: string): object => ({
  symbol: 'none',
  silent: true,
  data: [{ yAxis: 1 }],
  lineStyle: { color: css('--ink'), type: 'solid', width: 1.5, opacity: 0.6 },
  label: { formatter: msg('whereChart.expectedIfFishIgnored'), position: 'insideEndTop', color: css('--ink'), fontFamily, fontSize: 13 },
});

function smoothOption(answer: WhereAnswer, beside: WhereChartProps['beside'], { css, font, tooltip, units }: ChartLook): ChartOption {
  const { unit } = covariate(answer.key);
  const curve = answer.curve!;
  const other = beside?.answer.curve ?? null;
  const points = (list: Float64Array): [number, number][] => Array.from(list, (v, i) => [curve.x[i], Number.isFinite(v) ? v : NaN]);
  const top = ceiling([...Array.from(curve.high, (v, i) => Math.min(v, 2.2 * curve.ratio[i])), ...(other?.ratio ?? [])]);
  const cut = (list: [number, number][]): [number, number][] => list.map(([x, y]) => [x, Math.min(y, top)]);
  return {
    textStyle: font,
    grid: { left: 44, right: 14, top: 26, bottom: 52 },
    tooltip: {
      ...tooltip,
      trigger: 'axis',
      formatter: (params: { dataIndex: number }[]) => {
        const i = params[0].dataIndex;
        return hoverWords(
          `${inUnit(curve.x[i], unit, 1)} ${readUnit(unit)}`,
          msg('whereChart.timesAsOftenAs4', { ratio: times(curve.ratio[i]), low: times(curve.low[i]), high: times(curve.high[i]) }),
        );
      },
    },
    xAxis: {
      type: 'value',
      min: Math.floor(curve.x[0]),
      max: Math.ceil(curve.x[curve.x.length - 1]),
      name: msg('whereChart.smoothedOver', {
        key: withUnit(answer.key),
        unit: unit === '°C' ? stepText(curve.bandwidth, units) : inUnit(Number(curve.bandwidth.toPrecision(2)), unit),
      }),
      nameLocation: 'middle',
      nameGap: 30,
      nameTextStyle: { ...font, color: css('--mute') },
      axisLabel: { ...font, formatter: (v: number) => inUnit(v, unit) },
      splitLine: { show: false },
      axisLine: { lineStyle: { color: css('--line') } },
    },
    yAxis: {
      type: 'value',
      min: 0,
      max: top,
      interval: top > 4 ? 2 : 1,
      axisLabel: { ...font, color: css('--mute'), formatter: (v: number) => `${plain(v, 1)}×` },
      splitLine: { lineStyle: { color: css('--line') } },
    },
    series: [
      {
        type: 'line',
        data: cut(points(curve.low)),
        stack: 'band',
        stackStrategy: 'all',
        symbol: 'none',
        lineStyle: { opacity: 0 },
        silent: true,
      },
      {
        type: 'line',
        data: points(curve.high).map(([x, y], i) => [x, Math.min(y, top) - Math.min(curve.low[i], top)]),
        stack: 'band',
        stackStrategy: 'all',
        symbol: 'none',
        lineStyle: { opacity: 0 },
        areaStyle: { color: css('--fish'), opacity: 0.2 },
        silent: true,
      },
      {
        type: 'line',
        data: cut(points(curve.ratio)),
        symbol: 'circle',
        symbolSize: 7,
        showAllSymbol: true,
        itemStyle: { color: css('--fish') },
        triggerLineEvent: true,
        lineStyle: { color: css('--fish'), width: 3.5 },
        markLine: byChance(css, font.fontFamily),
      },
      ...(other
        ? [
            {
              type: 'line',
              data: Array.from(other.ratio, (v, i) => [other.x[i], Math.min(v, top)]),
              symbol: 'none',
              silent: true,
              lineStyle: { color: css('--act'), width: 2.5, type: 'dashed' },
            },
          ]
        : []),
    ],
  };
}

/** The numbers of the chart as a table. */
export const whereRows = ({ key, classes }: WhereAnswer): (string | number | null)[][] => [
  [withUnit(key, (unit) => unit), 'times', 'low', 'high', 'seen', 'expected', 'jacobs_d', 'per_hectare', 'hectares', 'looks', 'trips'],
  ...classes.map((c) => [labelKey(c.label), c.ratio, c.low, c.high, c.used, c.expected, c.jacobs, c.rate, c.effort, c.looks, c.trips]),
];

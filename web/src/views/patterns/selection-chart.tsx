import { BarChart, CustomChart, LineChart } from 'echarts/charts';
import { GridComponent, MarkLineComponent, TooltipComponent } from 'echarts/components';
import * as echarts from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';
import { useTheme } from '../../state/theme';
import type { DepthSelection } from './depth-selection';

echarts.use([BarChart, LineChart, CustomChart, GridComponent, TooltipComponent, MarkLineComponent, SVGRenderer]);

const css = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(name).trim();

/** Ratio of use to availability with its band above, hectares scanned below, by depth of the bottom. */
export function SelectionChart({ data }: { data: DepthSelection }) {
  const target = useRef<HTMLDivElement>(null);
  const theme = useTheme();
  useEffect(() => {
    if (!target.current) return;
    const chart = echarts.init(target.current, null, { renderer: 'svg' });
    const resize = new ResizeObserver(() => chart.resize());
    resize.observe(target.current);
    chart.setOption(optionFor(data));
    return () => {
      resize.disconnect();
      chart.dispose();
    };
  }, [data, theme]);
  return (
    <div
      ref={target}
      className="h-full min-h-64 w-full"
      role="img"
      aria-label="Selection of depth against availability; the table below holds the same numbers"
    />
  );
}

function optionFor({ classes }: DepthSelection): echarts.EChartsCoreOption {
  const font = { fontFamily: '"Atkinson Hyperlegible Next Variable", sans-serif', color: css('--ink'), fontSize: 13 };
  const names = classes.map((c, i) => (i === classes.length - 1 && c.from >= 16 ? `${c.from}+` : `${c.from}–${c.to}`));
  const sure = classes.filter((c) => !Number.isNaN(c.high));
  const top = Math.min(8, Math.max(2, Math.ceil(Math.max(1, ...sure.map((c) => Math.min(c.high, c.ratio * 2.2))) * 2) / 2));
  const value = (v: number): number | null => (Number.isNaN(v) ? null : Math.min(v, top));
  const best = classes.reduce((a, b) => ((b.ratio || 0) > (a.ratio || 0) ? b : a), classes[0]);
  return {
    animation: false,
    textStyle: font,
    grid: [
      { left: 52, right: 24, top: 22, height: '60%' },
      { left: 52, right: 24, bottom: 46, height: '18%' },
    ],
    tooltip: {
      trigger: 'axis',
      backgroundColor: css('--surface'),
      borderColor: css('--line'),
      textStyle: font,
      formatter: (params: { dataIndex: number }[]) => {
        const c = classes[params[0].dataIndex];
        return `<b>${names[params[0].dataIndex]} m</b><br>${Number.isNaN(c.ratio) ? 'nothing expected' : `${c.ratio.toFixed(1)} times chance${Number.isNaN(c.low) ? '' : ` (${c.low.toFixed(1)}–${c.high.toFixed(1)})`}`}<br>${c.used} contacts, ${c.rate.toFixed(2)} a hectare<br>${c.effort.toFixed(1)} ha in ${c.looks} looks on ${c.trips} trips`;
      },
    },
    axisPointer: { link: [{ xAxisIndex: 'all' }] },
    xAxis: [
      { type: 'category', data: names, gridIndex: 0, axisLabel: { show: false }, axisTick: { show: false }, axisLine: { show: false } },
      {
        type: 'category',
        data: names,
        gridIndex: 1,
        axisLabel: { ...font, fontSize: 12, interval: 0, hideOverlap: true },
        axisTick: { show: false },
        axisLine: { lineStyle: { color: css('--line') } },
        name: 'depth of the bottom, m; the bars: hectares looked at',
        nameLocation: 'middle',
        nameGap: 28,
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
        axisLabel: { ...font, color: css('--mute'), formatter: '{value}×' },
        splitLine: { lineStyle: { color: css('--line') } },
      },
      {
        type: 'value',
        gridIndex: 1,
        inverse: true,
        splitNumber: 1,
        name: 'ha',
        nameLocation: 'middle',
        nameGap: 14,
        nameRotate: 0,
        nameTextStyle: { ...font, color: css('--mute') },
        axisLabel: { show: false },
        splitLine: { show: false },
      },
    ],
    series: [
      { type: 'line', data: classes.map((c) => value(c.low)), stack: 'band', symbol: 'none', lineStyle: { opacity: 0 }, silent: true },
      {
        type: 'line',
        data: classes.map((c) => (Number.isNaN(c.high) ? null : value(c.high)! - value(c.low)!)),
        stack: 'band',
        symbol: 'none',
        lineStyle: { opacity: 0 },
        areaStyle: { color: css('--fish'), opacity: 0.2 },
        silent: true,
      },
      {
        type: 'line',
        data: classes.map((c) => value(c.ratio)),
        symbol: 'circle',
        symbolSize: 9,
        lineStyle: { color: css('--fish'), width: 3.5 },
        itemStyle: { color: css('--fish') },
        label: {
          show: true,
          position: 'top',
          formatter: (p: { dataIndex: number }) =>
            classes[p.dataIndex] === best ? `${best.ratio.toFixed(1)} times what chance would give` : '',
          color: css('--fish'),
          fontWeight: 700,
          fontSize: 15,
          fontFamily: font.fontFamily,
        },
        markLine: {
          symbol: 'none',
          silent: true,
          data: [{ yAxis: 1 }],
          lineStyle: { color: css('--ink'), type: 'solid', width: 1.5, opacity: 0.6 },
          label: {
            formatter: 'as chance would give',
            position: 'insideEndTop',
            color: css('--ink'),
            fontFamily: font.fontFamily,
            fontSize: 13,
          },
        },
      },
      {
        type: 'bar',
        xAxisIndex: 1,
        yAxisIndex: 1,
        data: classes.map((c) => Number(c.effort.toFixed(2))),
        itemStyle: { color: css('--w2') },
        barWidth: '72%',
        label: {
          show: true,
          position: 'insideBottom',
          formatter: (p: { value: number }) => (p.value >= 10 ? p.value.toFixed(0) : p.value.toFixed(1)),
          color: css('--ink'),
          fontFamily: font.fontFamily,
          fontSize: 12,
        },
      },
    ],
  };
}

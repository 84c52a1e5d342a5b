import type { EChartsCoreOption } from 'echarts/core';
import { Download } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { csvLine } from '@restless-shoal/core/formats';
import { useTheme } from '../state/theme';
import { saveFile } from './save-file';
import { type UnitSystem } from '@restless-shoal/core/units';
import { useUnits } from '../state/units';
import { parts as msg } from '../words';

/** The library is large: what is said in words stands before it is there. */
const library = (): Promise<typeof import('./echarts')> => import('./echarts');

export type ChartOption = EChartsCoreOption;

/** What a chart is drawn with: the theme's colours and fonts. */
export interface ChartLook {
  css: (name: string) => string;
  font: { fontFamily: string; color: string; fontSize: number };
  /** A tooltip in the theme's colours. */
  tooltip: Record<string, unknown>;
  /** What is read in. */
  units: UnitSystem;
}

function look(units: UnitSystem): ChartLook {
  const css = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(name).trim();
  const font = { fontFamily: '"Atkinson Hyperlegible Next Variable", sans-serif', color: css('--ink'), fontSize: 13 };
  return {
    css,
    font,
    tooltip: { backgroundColor: css('--surface'), borderColor: css('--line'), textStyle: font, confine: true },
    units,
  };
}

/** What was pressed: index in the data, and of the series. */
export interface ChartPress {
  dataIndex: number;
  seriesIndex: number;
}

interface EChartProps {
  /** Says in words what is shown, for those who cannot see it; the same numbers stand in the CSV. */
  label: string;
  /** The option, made anew for each theme. */
  option: (look: ChartLook) => ChartOption;
  /** Moves when the option does. */
  of: unknown;
  onPress?: (press: ChartPress) => void;
  /** Hands out a way to draw the chart as a picture. */
  onReady?: (picture: (() => string) | null) => void;
}

/**
 * What a chart says where it is pointed at. As elements and not as text, which ECharts would read as HTML: names of
 * species, lures and waters are anybody's words.
 */
export function hoverWords(title: string | null, ...lines: (string | false | null | undefined)[]): HTMLElement {
  const box = document.createElement('div');
  const add = (tag: 'b' | 'div', words: string): void => {
    const line = document.createElement(tag);
    line.textContent = words;
    box.append(line);
  };
  if (title !== null) add('b', title);
  for (const line of lines) if (line) add('div', line);
  return box;
}

/** A chart by ECharts: drawn as vectors, in the theme's colours, as large as its place. */
export function EChart({ label, option, of, onPress, onReady }: EChartProps) {
  const target = useRef<HTMLDivElement>(null);
  const theme = useTheme();
  const units = useUnits();
  const latest = useRef({ option, onPress, onReady });
  useEffect(() => {
    latest.current = { option, onPress, onReady };
  });
  useEffect(() => {
    if (!target.current) return;
    const box = target.current;
    let end: (() => void) | null = null;
    let gone = false;
    void library().then(
      ({ echarts }) => {
        if (gone) return;
        const chart = echarts.init(box, null, { renderer: 'svg' });
        const resize = new ResizeObserver(() => chart.resize());
        resize.observe(box);
        const drawn = { animation: false, ...latest.current.option(look(units)) };
        chart.setOption(drawn);
        chart.on('click', (event) => latest.current.onPress?.({ dataIndex: event.dataIndex ?? -1, seriesIndex: event.seriesIndex ?? -1 }));
        latest.current.onReady?.(() => {
          // Pictures want a canvas: drawn aside, at twice the size, on the ground of the theme.
          const aside = document.createElement('div');
          const picture = echarts.init(aside, null, { renderer: 'canvas', width: box.clientWidth, height: box.clientHeight });
          picture.setOption(drawn);
          const url = picture.getDataURL({ type: 'png', pixelRatio: 2, backgroundColor: look(units).css('--ground') });
          picture.dispose();
          return url;
        });
        end = () => {
          latest.current.onReady?.(null);
          resize.disconnect();
          chart.dispose();
        };
      },
      () => {
        if (!gone) box.textContent = msg('eChart.notLoaded');
      },
    );
    return () => {
      gone = true;
      end?.();
    };
  }, [of, theme, units]);
  return <div ref={target} className="h-full w-full" role="img" aria-label={label} />;
}

/** Buttons that carry a chart away: as a picture and as a table. */
export function Exports({ name, picture, rows }: { name: string; picture?: () => string; rows: () => (string | number | null)[][] }) {
  const button = 'btn btn-ghost btn-sm touch-target px-1.5 font-normal text-mute';
  const file = name.toLowerCase().replace(/[^a-z0-9]+/g, '-');
  return (
    <span className="flex shrink-0 items-center" role="group" aria-label={msg('eChart.save', { name })}>
      <Download size={15} className="text-mute" aria-hidden />
      {picture && (
        <button
          type="button"
          className={button}
          aria-label={msg('eChart.asPng', { name })}
          onClick={() => saveFile(`${file}.png`, picture())}
        >
          {msg('eChart.png')}
        </button>
      )}
      <button
        type="button"
        className={button}
        aria-label={msg('eChart.asCsv', { name })}
        onClick={() => saveFile(`${file}.csv`, csvText(rows()), 'text/csv')}
      >
        {msg('eChart.csv')}
      </button>
    </span>
  );
}

/** Rows as CSV text; what is not known is left empty. */
export const csvText = (rows: (string | number | null)[][]): string =>
  rows.map((row) => csvLine(row.map((v) => (typeof v === 'number' && !Number.isFinite(v) ? null : v)))).join('');

import { X } from 'lucide-react';
import type { Reason } from '@restless-shoal/core/forecast';
import type { Point } from '@restless-shoal/core/geo';
import { Column } from '../../parts/column';
import { percent, percentRange } from '../../parts/format';
import { useWaterState } from '../../state/water';
import type { useForecast } from './use-forecast';
import { forecast as msg, say, term } from '../../words';

export interface CellView {
  point: Point;
  cell: number;
}

/** One cell of the forecast: how likely, how deep, and what speaks for and against it. */
export function CellSheet({
  view,
  answer,
  reasons,
  onClose,
}: {
  view: CellView;
  answer: NonNullable<ReturnType<typeof useForecast>['answer']>;
  reasons: Reason[];
  onClose: () => void;
}) {
  const { chart, day, species } = useWaterState();
  const { forecast } = answer;
  const { cell } = view;
  const depth = chart!.cells.depth[cell];
  return (
    <section
      aria-label={msg('cellSheet.whyHere')}
      className="absolute bottom-3 left-3 w-[min(25rem,calc(100%-5rem))] rounded-box border border-line bg-surface p-3"
      data-testid="cell"
    >
      <div className="flex gap-3">
        <Column
          width={46}
          height={100}
          max={Math.max(6, Math.ceil(depth) + 1)}
          bottom={depth}
          hardness={chart!.cells.hardness[cell] || 0}
          thermocline={day.column.thermocline}
          band={{ top: forecast.depthTop[cell], bottom: forecast.depthBottom[cell] }}
        />
        <div className="min-w-0 flex-1">
          <p className="num flex items-baseline justify-between">
            <b className="text-2xl text-fish" data-testid="cell-chance" data-value={forecast.probability[cell]}>
              {percent(forecast.probability[cell])}
            </b>
            <span className="text-mute">
              {percentRange(forecast.low[cell], forecast.high[cell])} <small>80 %</small>
            </span>
            <button
              type="button"
              aria-label={msg('cellSheet.close')}
              className="btn btn-ghost touch-target -mr-2 -mt-2 px-0"
              onClick={onClose}
            >
              <X size={18} aria-hidden />
            </button>
          </p>
          <p className="num text-sm">
            {msg('cellSheet.bottomMLikelyAt', {
              depth: depth,
              name: term(species.name),
              depthTop: forecast.depthTop[cell],
              depthBottom: forecast.depthBottom[cell],
            })}
          </p>
          <ul className="mt-1 text-[13px] leading-snug">
            {reasons.slice(0, 8).map((r) => (
              <li key={r.factor}>
                <b style={{ color: r.effect > 0 ? 'var(--act)' : 'var(--warn)' }}>
                  {r.effect > 0 ? msg('cellSheet.for') : msg('cellSheet.against')}
                </b>{' '}
                {say(r.says)}
              </li>
            ))}
          </ul>
        </div>
      </div>
    </section>
  );
}

import { useUnits } from '../../state/units';
import { formatDepth, deck as msg } from '../../words';

/** How far down the Column goes where nobody knows how deep the water is, m. */
export const REACHES = [6, 12, 25, 50, 100];

/** Chooses how far down the Column goes where neither the sounder nor a chart says how deep the water is. */
export function ColumnReach({ deepest, onDeepest }: { deepest: number; onDeepest: (deepest: number) => void }) {
  const units = useUnits();
  return (
    <label className="flex justify-center text-xs text-mute">
      <span className="sr-only">{msg('columnReach.theDepthHereIs')}</span>
      <select
        className="select h-11 w-28 px-2"
        title={msg('columnReach.theDepthHereIs2')}
        value={deepest}
        onChange={(e) => onDeepest(Number(e.target.value))}
      >
        {[...new Set([...REACHES, deepest])]
          .sort((a, b) => a - b)
          .map((r) => (
            <option key={r} value={r}>
              {msg('columnReach.deep', { r: formatDepth(r, units).replace('.0', '') })}
            </option>
          ))}
      </select>
    </label>
  );
}

import { FEATURE_KINDS, type ChartFeature, type FeatureKind } from '@restless-shoal/core/chart';
import { DepthBand } from '../../parts/depth-band';
import { percent, depthRange } from '../../parts/format';
import { useUnits } from '../../state/units';
import type { ShapeFilter } from './filter-shapes';
import { shapeWords } from './shape-words';
import { chart as msg, formatLength, term } from '../../words';

interface ShapesPanelProps {
  all: ChartFeature[];
  shown: ChartFeature[];
  filter: ShapeFilter;
  onFilter: (filter: ShapeFilter) => void;
  max: number;
  chosen: ChartFeature | null;
  onChoose: (shape: ChartFeature) => void;
}

const SIZES = [0, 20, 40, 80, 150, 300];

/** The shapes of the bottom that hold fish: filtered by kind, depth and size, and listed. */
export function ShapesPanel({ all, shown, filter, onFilter, max, chosen, onChoose }: ShapesPanelProps) {
  const { depth: unit } = useUnits();
  const counts = new Map<FeatureKind, number>();
  for (const s of all) counts.set(s.kind, (counts.get(s.kind) ?? 0) + 1);
  const toggle = (kind: FeatureKind): void =>
    onFilter({ ...filter, kinds: filter.kinds.includes(kind) ? filter.kinds.filter((k) => k !== kind) : [...filter.kinds, kind] });
  if (!all.length) return <p className="text-mute">{msg('shapesPanel.noShapesYetThey')}</p>;
  return (
    <>
      <div className="flex flex-wrap gap-1.5" role="group" aria-label={msg('shapesPanel.kindsOfShape')}>
        {FEATURE_KINDS.filter((k) => counts.has(k)).map((kind) => (
          <button
            key={kind}
            type="button"
            aria-pressed={filter.kinds.includes(kind)}
            className={`btn btn-sm h-9 px-2 ${filter.kinds.includes(kind) ? 'btn-primary' : ''}`}
            onClick={() => toggle(kind)}
          >
            {term(kind)} <span className="num opacity-70">{counts.get(kind)}</span>
          </button>
        ))}
      </div>
      <div className="mt-2 flex items-center gap-3">
        <div className="flex-1">
          <p className="num text-sm">{msg('shapesPanel.deep', { depth: depthRange(filter.depth[0], filter.depth[1], unit) })}</p>
          <DepthBand max={max} band={filter.depth} onChange={(depth) => onFilter({ ...filter, depth })} />
        </div>
        <label className="text-sm">
          <span className="block">{msg('shapesPanel.atLeast')}</span>
          <select className="select h-11 w-24" value={filter.size} onChange={(e) => onFilter({ ...filter, size: Number(e.target.value) })}>
            {SIZES.map((s) => (
              <option key={s} value={s}>
                {s ? formatLength(s) : msg('shapesPanel.anySize')}
              </option>
            ))}
          </select>
        </label>
      </div>
      <p className="num mt-1 text-sm text-mute" data-testid="shapes-count">
        {msg('shapesPanel.ofShapesSurestFirst', {
          shown: shown.length,
          all: all.length,
          value: !filter.kinds.some((k) => counts.has(k)) ? msg('shapesPanel.ofAllKinds') : '',
        })}
      </p>
      <ul
        className="-mx-3 mt-1 min-h-24 flex-1 divide-y divide-line overflow-y-auto border-t border-line"
        aria-label={msg('shapesPanel.shapes')}
      >
        {shown.slice(0, 200).map((s) => (
          <li key={`${s.kind} ${s.x} ${s.y}`}>
            <button
              type="button"
              aria-current={s === chosen}
              className={`flex min-h-11 w-full items-center gap-2 px-3 py-1 text-left hover:bg-ground ${s === chosen ? 'bg-ground font-bold' : ''}`}
              onClick={() => onChoose(s)}
            >
              <span className="min-w-0 flex-1">
                <span className="block leading-tight">{term(s.kind)}</span>
                <span className="num block text-sm leading-tight text-mute">{shapeWords(s, unit)}</span>
              </span>
              <span className="num text-sm">{percent(s.confidence)}</span>
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}

import { setUnits, useUnits } from '../../state/units';
import { Say } from '../../parts/say';

/** What is drawn on the chart. */
export interface ChartLayers {
  relief: boolean;
  contours: boolean;
  overlay: 'hardness' | 'doubt' | null;
  soundings: 'none' | 'all' | 'new';
  marks: boolean;
  cover: boolean;
  shapes: boolean;
}

interface LayersPanelProps {
  layers: ChartLayers;
  onLayers: (layers: ChartLayers) => void;
  counts: { soundings: string; fresh: string; marks: string; shapes: string; cover: string };
}

function Choice<T>({ label, value, options, onChange }: { label: string; value: T; options: [T, string][]; onChange: (value: T) => void }) {
  return (
    <fieldset className="border-t border-line py-2">
      <legend className="float-left mr-3 w-20 pt-2 font-semibold">{label}</legend>
      <div className="flex flex-wrap gap-1" role="radiogroup" aria-label={label}>
        {options.map(([option, words]) => (
          <button
            key={words}
            type="button"
            role="radio"
            aria-checked={value === option}
            className={`btn btn-sm h-9 px-2 ${value === option ? 'btn-primary' : ''}`}
            onClick={() => onChange(option)}
          >
            {words}
          </button>
        ))}
      </div>
    </fieldset>
  );
}

/** What lies on the chart, and in which unit it is read. */
export function LayersPanel({ layers, onLayers, counts }: LayersPanelProps) {
  const { depth: unit } = useUnits();
  const set = (change: Partial<ChartLayers>): void => onLayers({ ...layers, ...change });
  const toggles: [keyof ChartLayers & ('relief' | 'contours' | 'marks' | 'cover' | 'shapes'), string][] = [
    ['relief', 'Relief'],
    ['contours', 'Contours'],
    ['shapes', `Shapes, ${counts.shapes}`],
    ['cover', `Cover and hazards, ${counts.cover}`],
    ['marks', `Marks, ${counts.marks}`],
  ];
  return (
    <div aria-label="Layers" role="group">
      {toggles.map(([key, words]) => (
        <label key={key} className="flex min-h-9 cursor-pointer max-md:min-h-11 items-center gap-3">
          <input type="checkbox" className="toggle toggle-sm" checked={layers[key]} onChange={(e) => set({ [key]: e.target.checked })} />
          <span className="num">{words}</span>
        </label>
      ))}
      <Choice<ChartLayers['overlay']>
        label="Over it"
        value={layers.overlay}
        options={[
          [null, 'nothing'],
          ['hardness', 'hardness'],
          ['doubt', 'what is not known'],
        ]}
        onChange={(overlay) => set({ overlay })}
      />
      <Choice<ChartLayers['soundings']>
        label="Soundings"
        value={layers.soundings}
        options={[
          ['none', 'none'],
          ['all', `all ${counts.soundings}`],
          ['new', `new with the last survey${counts.fresh}`],
        ]}
        onChange={(soundings) => set({ soundings })}
      />
      <Choice<'m' | 'ft'>
        label="Depths in"
        value={unit}
        options={[
          ['m', 'm'],
          ['ft', 'ft'],
        ]}
        onChange={(depth) => setUnits({ depth })}
      />
      {layers.overlay === 'hardness' && (
        <p className="border-t border-line pt-2 text-sm text-mute">The harder the bottom, the denser the brown; dotted from 0.60 on.</p>
      )}
      {layers.overlay === 'doubt' && (
        <p className="border-t border-line pt-2 text-sm text-mute">
          <Say>Clear: the depth is good to 0.2 m. The paler, the less is known; blank from 1.5 m of expected error on.</Say>
        </p>
      )}
    </div>
  );
}

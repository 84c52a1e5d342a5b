import { setUnits, useUnits } from '../../state/units';
import { chart as msg, term } from '../../words';

/** What is drawn on the chart. */
export interface ChartLayers {
  relief: boolean;
  contours: boolean;
  overlay: 'hardness' | 'doubt' | null;
  soundings: 'none' | 'all' | 'new';
  marks: boolean;
  spots: boolean;
  /** Marks that others sent. */
  others: boolean;
  cover: boolean;
  shapes: boolean;
}

interface LayersPanelProps {
  layers: ChartLayers;
  onLayers: (layers: ChartLayers) => void;
  counts: { soundings: string; fresh: string; marks: string; spots: string; others: string | null; shapes: string; cover: string };
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
  const toggles: [keyof ChartLayers & ('relief' | 'contours' | 'marks' | 'spots' | 'others' | 'cover' | 'shapes'), string][] = [
    ['relief', msg('layersPanel.relief')],
    ['contours', msg('layersPanel.contours')],
    ['shapes', msg('layersPanel.shapes', { shapes: counts.shapes })],
    ['cover', msg('layersPanel.coverAndHazards', { cover: counts.cover })],
    ['marks', msg('layersPanel.marks', { marks: counts.marks })],
    ['spots', msg('layersPanel.spots', { spots: counts.spots })],
    ...(counts.others === null ? [] : [['others', msg('layersPanel.others', { others: counts.others })] as ['others', string]]),
  ];
  return (
    <div aria-label={msg('layersPanel.layers')} role="group">
      {toggles.map(([key, words]) => (
        <label key={key} className="flex min-h-9 cursor-pointer max-md:min-h-11 items-center gap-3">
          <input type="checkbox" className="toggle toggle-sm" checked={layers[key]} onChange={(e) => set({ [key]: e.target.checked })} />
          <span className="num">{words}</span>
        </label>
      ))}
      <Choice<ChartLayers['overlay']>
        label={msg('layersPanel.overIt')}
        value={layers.overlay}
        options={[
          [null, term('nothing')],
          ['hardness', msg('layersPanel.hardness')],
          ['doubt', msg('layersPanel.whatIsNotKnown')],
        ]}
        onChange={(overlay) => set({ overlay })}
      />
      <Choice<ChartLayers['soundings']>
        label={msg('layersPanel.soundings')}
        value={layers.soundings}
        options={[
          ['none', term('none')],
          ['all', msg('layersPanel.all', { soundings: counts.soundings })],
          ['new', msg('layersPanel.newWithTheLast', { fresh: counts.fresh })],
        ]}
        onChange={(soundings) => set({ soundings })}
      />
      <Choice<'m' | 'ft'>
        label={msg('layersPanel.depthsIn')}
        value={unit}
        options={[
          ['m', 'm'],
          ['ft', 'ft'],
        ]}
        onChange={(depth) => setUnits({ depth })}
      />
      {layers.overlay === 'hardness' && (
        <p className="border-t border-line pt-2 text-sm text-mute">{msg('layersPanel.denserBrownMeansHarder')}</p>
      )}
      {layers.overlay === 'doubt' && (
        <p className="border-t border-line pt-2 text-sm text-mute">{msg('layersPanel.clearDepthGoodTo', { good: 0.2, poor: 1.5 })}</p>
      )}
    </div>
  );
}

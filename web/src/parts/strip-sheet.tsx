import { useState } from 'react';
import { fromUnit, metric, toUnit, type UnitSystem } from '@restless-shoal/core/units';
import { useUnits } from '../state/units';
import { useWaterState } from '../state/water';
import type { WhatIf } from '../state/what-if';
import { Dialog } from './dialog';
import { compass, fromLocalInput, toLocalInput, zoneWords } from './format';
import { UnitsFields } from './units-fields';
import { parts as msg, say } from '../words';

interface SliderProps {
  label: string;
  /** What is measured, where it is read in the reader's unit. */
  kind?: keyof UnitSystem;
  /** The unit where it is not, or what follows it. */
  unit?: string;
  min: number;
  max: number;
  step: number;
  value: number;
  shown?: string;
  onChange: (value: number) => void;
}

/** A slider with its number beside it: drag it, or type. Values are SI; it shows the reader's unit. */
function Slider({ label, kind, unit: after = '', min: least, max: most, step, value: si, shown, onChange: change }: SliderProps) {
  const units = useUnits();
  const unit = kind ? `${units[kind]}${after}` : after;
  const read = (v: number): number => (kind ? toUnit(v, kind, units) : v);
  const [min, max] = [Math.ceil(read(least) / step - 1e-6) * step, Math.floor(read(most) / step + 1e-6) * step].map((v) =>
    Number(v.toFixed(2)),
  );
  const value = Number(read(si).toFixed(kind && units[kind] !== metric[kind] ? 1 : 2));
  const onChange = (v: number): void => change(kind ? fromUnit(v, kind, units) : v);
  return (
    <div className="grid grid-cols-[8.5rem_1fr_7.5rem] items-center gap-3 py-1.5 max-md:grid-cols-[1fr_7.5rem]">
      <span className="font-semibold">{label}</span>
      <input
        type="range"
        aria-label={label}
        aria-valuetext={`${value} ${unit}`}
        className="range range-sm max-md:col-span-2 max-md:row-start-2"
        min={min}
        max={max}
        step={step}
        value={value}
        onChange={(e) => onChange(Number(e.target.value))}
      />
      <span className="flex items-center gap-1.5">
        {shown ? (
          <span className="num">{shown}</span>
        ) : (
          <>
            <input
              type="number"
              aria-label={`${label}, ${unit}`}
              className="input input-sm num w-20"
              min={min}
              max={max}
              step={step}
              value={value}
              onChange={(e) => {
                const n = Number(e.target.value);
                if (e.target.value !== '' && n >= min && n <= max) onChange(n);
              }}
            />
            {unit}
          </>
        )}
      </span>
    </div>
  );
}

/** Where the conditions are changed by hand: the whole application then answers what if. */
export function StripSheet({ onClose }: { onClose: () => void }) {
  const { water, sort, conditions, day, said, whatIf, setWhatIf } = useWaterState();
  const units = useUnits();
  const [line, setLine] = useState(
    whatIf.thermoclineSet ?? { top: day.column.thermocline?.top ?? 5, bottom: day.column.thermocline?.bottom ?? 7 },
  );
  const set = (change: WhatIf): void => setWhatIf(change);
  return (
    <Dialog title={msg('stripSheet.whatIf')} onClose={onClose}>
      <p className="mb-3 text-mute">{msg('stripSheet.changeAnyOfThese')}</p>
      <label className="grid grid-cols-[8.5rem_1fr] items-center gap-3 py-1.5">
        <span className="font-semibold">{msg('stripSheet.dayAndTime')}</span>
        <span className="flex items-center gap-2">
          <input
            type="datetime-local"
            className="input input-sm"
            value={toLocalInput(conditions.at, water.time_zone)}
            onChange={(e) => {
              const at = fromLocalInput(e.target.value, water.time_zone);
              if (at) set({ at });
            }}
          />
          <small className="text-mute">{zoneWords(water.time_zone)}</small>
        </span>
      </label>
      <Slider
        label={msg('stripSheet.surface')}
        kind="temperature"
        min={0}
        max={32}
        step={0.1}
        value={conditions.surface}
        onChange={(surface) => set({ surface })}
      />
      <Slider
        label={msg('stripSheet.claritySecchi')}
        kind="depth"
        min={0.2}
        max={12}
        step={0.1}
        value={conditions.secchi}
        onChange={(secchi) => set({ secchi })}
      />
      <Slider
        label={msg('stripSheet.windFrom')}
        unit="°"
        min={0}
        max={355}
        step={5}
        value={Math.round(conditions.windFrom / 5) * 5}
        shown={`${compass(conditions.windFrom)}, ${Math.round(conditions.windFrom)}°`}
        onChange={(windFrom) => set({ windFrom })}
      />
      <Slider
        label={msg('stripSheet.wind')}
        kind="speed"
        min={0}
        max={20}
        step={0.5}
        value={conditions.windSpeed}
        onChange={(windSpeed) => set({ windSpeed })}
      />
      {sort === 'river' && (
        <>
          <Slider
            label={msg('stripSheet.current')}
            kind="speed"
            min={0}
            max={4}
            step={0.1}
            value={conditions.current?.rate ?? 0}
            onChange={(currentSpeed) => set({ currentSpeed })}
          />
          <Slider
            label={msg('stripSheet.currentTo')}
            unit="°"
            min={0}
            max={355}
            step={5}
            value={Math.round((conditions.current?.set ?? 0) / 5) * 5}
            shown={`${compass(conditions.current?.set ?? 0)}, ${Math.round(conditions.current?.set ?? 0)}°`}
            onChange={(currentTo) => set({ currentTo })}
          />
        </>
      )}
      {/* The tide says it for any moment. */}
      {!water.tide && (
        <>
          <Slider
            label={msg('stripSheet.level')}
            kind="depth"
            min={-20}
            max={20}
            step={0.1}
            value={conditions.level ?? 0}
            onChange={(level) => set({ level })}
          />
          <Slider
            label={msg('stripSheet.levelChanges')}
            kind="depth"
            unit={msg('stripSheet.aWeek')}
            min={-2}
            max={2}
            step={0.1}
            value={conditions.levelTrend ?? 0}
            onChange={(levelTrend) => set({ levelTrend })}
          />
        </>
      )}
      {sort === 'lake' && (
        <fieldset className="mt-2 border-t border-line pt-2">
          <label className="flex items-center gap-3 py-1.5">
            <input
              type="checkbox"
              className="checkbox"
              checked={whatIf.thermoclineSet !== undefined}
              onChange={(e) => set({ thermoclineSet: e.target.checked ? line : undefined })}
            />
            <span>{msg('stripSheet.setTheThermoclineBy')}</span>
          </label>
          {whatIf.thermoclineSet && (
            <>
              {(['top', 'bottom'] as const).map((edge) => (
                <Slider
                  key={edge}
                  label={edge === 'top' ? msg('stripSheet.itsTop') : msg('stripSheet.itsBottom')}
                  kind="depth"
                  min={0.5}
                  max={Math.max(6, Math.ceil(day.maxDepth))}
                  step={0.1}
                  value={line[edge]}
                  onChange={(v) => {
                    const next =
                      edge === 'top' ? { top: v, bottom: Math.max(line.bottom, v + 0.2) } : { top: Math.min(line.top, v - 0.2), bottom: v };
                    setLine(next);
                    set({ thermoclineSet: next });
                  }}
                />
              ))}
            </>
          )}
        </fieldset>
      )}
      {said.length > 0 && (
        <ul className="mt-3 border-l-4 border-bait pl-3 text-sm text-mute">
          {said.map((s) => (
            <li key={s.code}>{say(s)}</li>
          ))}
        </ul>
      )}
      <details className="mt-3 border-t border-line pt-2">
        <summary className="touch-target cursor-pointer content-center font-semibold">
          {msg('stripSheet.readIn', { depth: units.depth, temperature: units.temperature, speed: units.speed })}
        </summary>
        <UnitsFields />
      </details>
      <div className="mt-4 flex justify-end gap-2">
        <button type="button" className="btn touch-target" onClick={() => setWhatIf(null)}>
          {msg('stripSheet.backToTheLog')}
        </button>
        <button type="button" className="btn btn-primary touch-target" onClick={onClose}>
          {msg('stripSheet.done')}
        </button>
      </div>
    </Dialog>
  );
}

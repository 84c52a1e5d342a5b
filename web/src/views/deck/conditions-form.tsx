import { useMemo, useState } from 'react';
import { yupResolver } from '@hookform/resolvers/yup';
import { useForm } from 'react-hook-form';
import { mixed, object, type InferType } from 'yup';
import { parseMeasure, toUnit, type MeasureKind, type UnitSystem } from '@restless-shoal/core/units';
import { Dialog } from '../../parts/dialog';
import { readNumber } from '../../parts/read-number';
import { useUnits } from '../../state/units';

interface MeasureField {
  name: 'surface_temperature_c' | 'secchi_m' | 'wind_from_deg' | 'wind_speed_ms';
  label: string;
  /** What is measured; null for degrees of the compass. */
  kind: MeasureKind | null;
  /** Bounds, SI. */
  least: number;
  most: number;
}

const FIELDS: MeasureField[] = [
  { name: 'surface_temperature_c', label: 'Surface temperature', kind: 'temperature', least: -2, most: 45 },
  { name: 'secchi_m', label: 'Clarity (Secchi)', kind: 'depth', least: 0.01, most: 80 },
  { name: 'wind_from_deg', label: 'Wind from', kind: null, least: 0, most: 360 },
  { name: 'wind_speed_ms', label: 'Wind speed', kind: 'speed', least: 0, most: 100 },
];

/** A measure as typed, with its unit or without: then it is in the reader's. SI, null when nothing was typed. */
function measure({ kind, least, most }: MeasureField, units: UnitSystem) {
  const unit = kind ? units[kind] : '°';
  const read = (v: number): number => Number((kind ? toUnit(v, kind, units) : v).toFixed(2));
  return mixed<number>()
    .transform((_, typed: unknown) => {
      if (typed === '' || typed == null) return null;
      try {
        return kind ? parseMeasure(String(typed), kind, unit) : readNumber(String(typed));
      } catch {
        return NaN;
      }
    })
    .nullable()
    .test('number', `is not a number in ${unit} or with a unit of its own`, (v) => v == null || !Number.isNaN(v))
    .test(
      'possible',
      `must be from ${read(least)} to ${read(most)} ${unit}`,
      (v) => v == null || Number.isNaN(v) || (v >= least && v <= most),
    );
}

const schemaIn = (units: UnitSystem) =>
  object(
    Object.fromEntries(FIELDS.map((field) => [field.name, measure(field, units)])) as Record<
      MeasureField['name'],
      ReturnType<typeof measure>
    >,
  );

export type WaterReading = InferType<ReturnType<typeof schemaIn>>;

/** A reading of the water, typed in; what is left empty is not logged. */
export function ConditionsForm({ onSave, onClose }: { onSave: (reading: WaterReading) => Promise<void>; onClose: () => void }) {
  const units = useUnits();
  const schema = useMemo(() => schemaIn(units), [units]);
  const [failed, setFailed] = useState<string | null>(null);
  const {
    register,
    handleSubmit,
    formState: { errors, isSubmitting },
  } = useForm({ resolver: yupResolver(schema) });
  return (
    <Dialog title="Log the water" onClose={onClose}>
      <form
        onSubmit={(event) =>
          void handleSubmit(async (reading) => {
            try {
              await onSave(reading);
              onClose();
            } catch (error) {
              setFailed((error as Error).message);
            }
          })(event)
        }
      >
        {FIELDS.map(({ name, label, kind }) => (
          <label key={name} className="grid grid-cols-[1fr_7rem_3.5rem] items-center gap-3 py-1.5">
            <span>{label}</span>
            <input inputMode="decimal" className="input num h-11" aria-invalid={errors[name] !== undefined} {...register(name)} />
            <span className="text-mute">{kind ? units[kind] : '° true'}</span>
            {errors[name] && (
              <span role="alert" className="col-span-3 text-sm text-warn">
                {label} {errors[name]?.message}
              </span>
            )}
          </label>
        ))}
        <p className="mt-1 text-sm text-mute">
          Other units can be typed out: {units.depth === 'm' ? '66 °F, 5.5 ft, 10 kn' : '19 °C, 1.7 m, 5 m/s'}.
        </p>
        {failed && (
          <p role="alert" className="mt-2 text-warn">
            {failed}
          </p>
        )}
        <button type="submit" disabled={isSubmitting} className="btn btn-primary mt-4 h-12 w-full text-lg">
          Log it
        </button>
      </form>
    </Dialog>
  );
}

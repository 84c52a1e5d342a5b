import { useState } from 'react';
import { yupResolver } from '@hookform/resolvers/yup';
import { useForm } from 'react-hook-form';
import { mixed, object, type InferType } from 'yup';
import { parseMeasure, type MeasureKind } from '@restless-shoal/core/units';
import { Dialog } from '../../parts/dialog';

/** A measure as typed, with its unit or without; the reason when it is none, null when nothing was typed. */
function measure(kind: MeasureKind | null, unit: string, least: number, most: number) {
  return mixed<number>()
    .transform((_, typed: unknown) => {
      if (typed === '' || typed == null) return null;
      try {
        return kind ? parseMeasure(String(typed), kind, unit) : Number(String(typed).replace(',', '.'));
      } catch {
        return NaN;
      }
    })
    .nullable()
    .test('number', `is not a number in ${unit} or with a unit of its own`, (v) => v == null || !Number.isNaN(v))
    .test('possible', `must be from ${least} to ${most} ${unit}`, (v) => v == null || Number.isNaN(v) || (v >= least && v <= most));
}

const schema = object({
  surface_temperature_c: measure('temperature', '°C', -2, 45),
  secchi_m: measure('depth', 'm', 0.01, 80),
  wind_from_deg: measure(null, '°', 0, 360),
  wind_speed_ms: measure('speed', 'm/s', 0, 100),
});

export type WaterReading = InferType<typeof schema>;

const FIELDS: { name: keyof WaterReading; label: string; unit: string }[] = [
  { name: 'surface_temperature_c', label: 'Surface temperature', unit: '°C' },
  { name: 'secchi_m', label: 'Clarity (Secchi)', unit: 'm' },
  { name: 'wind_from_deg', label: 'Wind from', unit: '° true' },
  { name: 'wind_speed_ms', label: 'Wind speed', unit: 'm/s' },
];

/** A reading of the water, typed in; what is left empty is not logged. */
export function ConditionsForm({ onSave, onClose }: { onSave: (reading: WaterReading) => Promise<void>; onClose: () => void }) {
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
        {FIELDS.map(({ name, label, unit }) => (
          <label key={name} className="grid grid-cols-[1fr_7rem_3.5rem] items-center gap-3 py-1.5">
            <span>{label}</span>
            <input inputMode="decimal" className="input num h-11" aria-invalid={errors[name] !== undefined} {...register(name)} />
            <span className="text-mute">{unit}</span>
            {errors[name] && (
              <span role="alert" className="col-span-3 text-sm text-warn">
                {label} {errors[name]?.message}
              </span>
            )}
          </label>
        ))}
        <p className="mt-1 text-sm text-mute">Other units can be typed out: 66 °F, 5.5 ft, 10 kn.</p>
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

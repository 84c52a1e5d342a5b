import { useState } from 'react';
import { yupResolver } from '@hookform/resolvers/yup';
import { useForm } from 'react-hook-form';
import { number, object, type InferType } from 'yup';
import { Dialog } from '../../parts/dialog';

const blank = (value: unknown, original: unknown): unknown => (original === '' ? null : value);
const measure = (least: number, most: number) =>
  number()
    .transform(blank)
    .nullable()
    .typeError('is not a number')
    .min(least, `must be from ${least} to ${most}`)
    .max(most, `must be from ${least} to ${most}`);

const schema = object({
  surface_temperature_c: measure(-2, 45),
  secchi_m: measure(0.01, 80),
  wind_from_deg: measure(0, 360),
  wind_speed_ms: measure(0, 100),
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

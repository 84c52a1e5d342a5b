import { useMemo, useState } from 'react';
import { yupResolver } from '@hookform/resolvers/yup';
import { useForm } from 'react-hook-form';
import { mixed, object, string } from 'yup';
import type { Reading } from '@restless-shoal/core/logbook';
import { parseMeasure, toUnit, type UnitSystem } from '@restless-shoal/core/units';
import { Dialog } from '../dialog';
import { readNumber } from '../read-number';
import { SunMoon } from '../sun-moon';
import { useUnits } from '../../state/units';
import { deck as msg } from '../../words';
import { told } from '../told';

type Measured = Exclude<keyof Reading, 'trip' | 'time' | 'latitude' | 'longitude' | 'signs'>;

interface MeasureField {
  name: Measured;
  label: string;
  /** What is measured; a unit that all readers have in common where it is none of theirs. */
  kind: keyof UnitSystem | { unit: string; factor: number };
  /** Bounds, SI. */
  min: number;
  max: number;
}

const FIELDS: MeasureField[] = [
  { name: 'surface_temperature_c', label: msg('conditionsForm.surfaceTemperature'), kind: 'temperature', min: -2, max: 45 },
  { name: 'secchi_m', label: msg('conditionsForm.claritySecchi'), kind: 'depth', min: 0.01, max: 80 },
  { name: 'wind_from_deg', label: msg('conditionsForm.windFrom'), kind: { unit: msg('conditionsForm.true'), factor: 1 }, min: 0, max: 360 },
  { name: 'wind_speed_ms', label: msg('conditionsForm.windSpeed'), kind: 'speed', min: 0, max: 100 },
  { name: 'air_temperature_c', label: msg('conditionsForm.airTemperature'), kind: 'temperature', min: -60, max: 60 },
  { name: 'cloud_fraction', label: msg('conditionsForm.cloud'), kind: { unit: '%', factor: 100 }, min: 0, max: 1 },
  { name: 'air_pressure_hpa', label: msg('conditionsForm.airPressure'), kind: { unit: 'hPa', factor: 1 }, min: 400, max: 1100 },
  { name: 'water_level_m', label: msg('conditionsForm.waterLevel'), kind: 'depth', min: -500, max: 9000 },
  { name: 'current_speed_ms', label: msg('conditionsForm.current'), kind: 'speed', min: 0, max: 100 },
  {
    name: 'current_to_deg',
    label: msg('conditionsForm.currentTo'),
    kind: { unit: msg('conditionsForm.true'), factor: 1 },
    min: 0,
    max: 360,
  },
  { name: 'salinity', label: msg('conditionsForm.salinity'), kind: { unit: '', factor: 1 }, min: 0, max: 45 },
];

/** Asked for where the water runs, or has salt in it. */
const OF_RUNNING: Measured[] = ['current_speed_ms', 'current_to_deg', 'salinity'];

const unitOf = ({ kind }: MeasureField, units: UnitSystem): string => (typeof kind === 'string' ? units[kind] : kind.unit);
/** An SI value in the reader's unit. */
const shownIn = ({ kind }: MeasureField, si: number, units: UnitSystem): number =>
  Number((typeof kind === 'string' ? toUnit(si, kind, units) : si * kind.factor).toFixed(2));

/** A measure as typed, with its unit or without: then it is in the reader's. SI, null when nothing was typed. */
function measure(field: MeasureField, units: UnitSystem) {
  const { kind, min, max } = field;
  const unit = unitOf(field, units);
  return mixed<number>()
    .transform((_, typed: unknown) => {
      if (typed === '' || typed == null) return null;
      try {
        return typeof kind === 'string' ? parseMeasure(String(typed), kind, unit) : readNumber(String(typed)) / kind.factor;
      } catch {
        return NaN;
      }
    })
    .nullable()
    .test('number', msg('conditionsForm.isNotANumber', { unit }), (v) => v == null || !Number.isNaN(v))
    .test(
      'possible',
      msg('conditionsForm.mustBeFromTo', { min: shownIn(field, min, units), max: shownIn(field, max, units), unit }),
      (v) => v == null || Number.isNaN(v) || (v >= min && v <= max),
    );
}

const schemaIn = (units: UnitSystem) =>
  object({
    ...(Object.fromEntries(FIELDS.map((field) => [field.name, measure(field, units)])) as Record<Measured, ReturnType<typeof measure>>),
    signs: string()
      .trim()
      .max(4000)
      .transform((v: string) => v || null)
      .nullable(),
  });

/** What was read of the water and the weather. */
export type WaterReading = Partial<Record<Measured, number | null>> & { signs?: string | null; time?: string };

/** A reading of the water, typed in or put right; what is left empty is not logged. */
export function ConditionsForm({
  reading = null,
  running = false,
  onSave,
  onClose,
}: {
  /** One that is put right; null for a new one. */
  reading?: WaterReading | null;
  /** The water runs: its current, and how salty it is, are asked for. */
  running?: boolean;
  onSave: (reading: WaterReading) => Promise<void>;
  onClose: () => void;
}) {
  const units = useUnits();
  const schema = useMemo(() => schemaIn(units), [units]);
  const [failed, setFailed] = useState<string | null>(null);
  const defaultValues = useMemo(
    () => ({
      ...Object.fromEntries(FIELDS.map((f) => [f.name, reading?.[f.name] == null ? '' : String(shownIn(f, reading[f.name]!, units))])),
      signs: reading?.signs ?? '',
    }),
    [reading, units],
  );
  const {
    register,
    handleSubmit,
    formState: { errors, isSubmitting },
  } = useForm({ resolver: yupResolver(schema), defaultValues: defaultValues as never });
  return (
    <Dialog title={reading ? msg('conditionsForm.aReading') : msg('conditionsForm.logWaterReadings')} onClose={onClose}>
      <form
        onSubmit={(event) =>
          void handleSubmit(async (typed) => {
            try {
              await onSave(typed as WaterReading);
              onClose();
            } catch (error) {
              setFailed(told(error));
            }
          })(event)
        }
      >
        <SunMoon day={reading?.time ? new Date(reading.time) : new Date()} />
        {FIELDS.filter(({ name }) => !OF_RUNNING.includes(name) || running || reading?.[name] != null).map((field) => (
          <label key={field.name} className="grid grid-cols-[1fr_7rem_3.5rem] items-center gap-3 py-1">
            <span>{field.label}</span>
            <input
              inputMode="decimal"
              className="input num h-11"
              aria-invalid={errors[field.name] !== undefined}
              {...register(field.name)}
            />
            <span className="text-mute">{unitOf(field, units)}</span>
            {errors[field.name] && (
              <span role="alert" className="col-span-3 text-sm text-warn">
                {field.label} {errors[field.name]?.message}
              </span>
            )}
          </label>
        ))}
        <label className="block py-1">
          <span>{msg('conditionsForm.note')}</span>
          <input className="input mt-1 h-11 w-full" maxLength={4000} {...register('signs')} />
        </label>
        <p className="mt-1 text-sm text-mute">{msg('conditionsForm.otherUnitsCanBe', { depth: units.depth === 'm' ? 'yes' : 'no' })}</p>
        {failed && (
          <p role="alert" className="mt-2 text-warn">
            {failed}
          </p>
        )}
        <button type="submit" disabled={isSubmitting} className="btn btn-primary mt-4 h-12 w-full text-lg">
          {reading ? msg('conditionsForm.save') : msg('conditionsForm.logIt')}
        </button>
      </form>
    </Dialog>
  );
}

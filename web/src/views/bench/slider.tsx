/** A number that is set by dragging, with its value in words beside its name. */
export function Slider({
  label,
  words,
  value,
  min,
  max,
  step,
  onChange,
}: {
  label: string;
  /** The value with its unit. */
  words: string;
  value: number;
  min: number;
  max: number;
  step: number;
  onChange: (value: number) => void;
}) {
  return (
    <label className="block py-1">
      <span className="flex justify-between gap-3">
        <span className="text-mute">{label}</span>
        <b className="num">{words}</b>
      </span>
      <input
        type="range"
        className="range range-primary h-8 w-full"
        aria-valuetext={words}
        min={min}
        max={max}
        step={step}
        value={Math.min(max, Math.max(min, value))}
        onChange={(e) => onChange(Number(e.target.value))}
      />
    </label>
  );
}

interface SegmentsProps<T> {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
}

/** One of a few: buttons side by side, the chosen one filled. */
export function Segments<T>({ label, value, options, onChange }: SegmentsProps<T>) {
  return (
    <div className="join w-full" role="radiogroup" aria-label={label}>
      {options.map(([option, words]) => (
        <button
          key={words}
          type="button"
          role="radio"
          aria-checked={value === option}
          className={`btn join-item touch-target flex-1 px-2 leading-tight ${value === option ? 'btn-primary' : ''}`}
          onClick={() => onChange(option)}
        >
          {words}
        </button>
      ))}
    </div>
  );
}

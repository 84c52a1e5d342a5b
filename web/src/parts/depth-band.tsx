import { parts as msg } from '../words';
interface DepthBandProps {
  max: number;
  band: [number, number];
  onChange: (band: [number, number]) => void;
}

/** Least width of a band, m. */
export const LEAST_BAND = 0.5;
/** A step of a handle, m. */
const STEP = 0.1;

/** Two handles on one line: the shallow and the deep edge of a band, m. */
export function DepthBand({ max, band: [top, bottom], onChange }: DepthBandProps) {
  const left = (top / max) * 100;
  const right = (bottom / max) * 100;
  const input =
    'pointer-events-none absolute inset-x-0 top-0 h-11 w-full appearance-none bg-transparent [&::-webkit-slider-thumb]:pointer-events-auto [&::-webkit-slider-thumb]:size-7 [&::-webkit-slider-thumb]:cursor-grab [&::-webkit-slider-thumb]:appearance-none [&::-webkit-slider-thumb]:rounded-full [&::-webkit-slider-thumb]:border-[3px] [&::-webkit-slider-thumb]:border-act [&::-webkit-slider-thumb]:bg-surface [&::-moz-range-thumb]:pointer-events-auto [&::-moz-range-thumb]:size-6 [&::-moz-range-thumb]:rounded-full [&::-moz-range-thumb]:border-[3px] [&::-moz-range-thumb]:border-act [&::-moz-range-thumb]:bg-surface';
  return (
    <div className="relative h-11">
      <div
        className="absolute inset-x-0 top-1/2 h-2 -translate-y-1/2 rounded-full"
        style={{ background: 'linear-gradient(90deg, var(--w0), var(--w1) 30%, var(--w2) 62%, var(--w3))' }}
      />
      <div className="absolute top-1/2 h-3 -translate-y-1/2 rounded bg-act" style={{ left: `${left}%`, width: `${right - left}%` }} />
      <input
        type="range"
        aria-label={msg('depthBand.shallowEdgeOfThe')}
        className={input}
        min={0}
        max={max}
        step={STEP}
        value={top}
        onChange={(e) => onChange([Math.min(Number(e.target.value), bottom - LEAST_BAND), bottom])}
      />
      <input
        type="range"
        aria-label={msg('depthBand.deepEdgeOfThe')}
        className={input}
        min={0}
        max={max}
        step={STEP}
        value={bottom}
        onChange={(e) => onChange([top, Math.max(Number(e.target.value), top + LEAST_BAND)])}
      />
    </div>
  );
}

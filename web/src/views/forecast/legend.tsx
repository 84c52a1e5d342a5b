import { percent } from '../../parts/format';
import { strength } from '../../parts/water-map';
import { forecast as msg } from '../../words';

/** A round number just above the chances that the best of the water reach: painted fully. */
export function fullChance(probability: Float32Array): number {
  const sorted = Float32Array.from(probability).sort();
  const high = sorted[Math.floor(sorted.length * 0.995)] ?? 0.1;
  return [0.01, 0.02, 0.03, 0.05, 0.08, 0.1, 0.15, 0.2, 0.3, 0.4, 0.5, 0.6, 0.8].find((v) => v >= high) ?? 1;
}

/** What the colours of the map mean. */
export function Legend({ full }: { full: number }) {
  return (
    <svg width="286" height="40" role="img" aria-label={msg('legend.paintedFromTo', { full: percent(full) })}>
      <defs>
        <pattern id="legend-unsure" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="1.6" height="8" fill="var(--ink)" />
        </pattern>
      </defs>
      {[0.1, 0.25, 0.5, 0.75, 1].map((t, i) => (
        <g key={t}>
          <rect x={i * 42} width="42" height="15" fill="var(--w1)" />
          <rect x={i * 42} width="42" height="15" fill="var(--fish)" opacity={strength(t * full, full) * 0.9} />
          <text x={i * 42 + 21} y="32" textAnchor="middle" fontSize="12" fill="var(--ink)" className="num">
            {percent(t * full)}
            {t === 1 ? ' +' : ''}
          </text>
        </g>
      ))}
      <rect x="226" width="48" height="15" fill="url(#legend-unsure)" />
      <text x="250" y="32" textAnchor="middle" fontSize="12" fill="var(--ink)">
        {msg('legend.unsure')}
      </text>
    </svg>
  );
}

/** What the colours mean where the map shows a change. */
export function ChangeLegend({ full }: { full: number }) {
  return (
    <svg width="286" height="40" role="img" aria-label={msg('legend.changeOfTheChance', { full: percent(full) })}>
      <defs>
        <pattern id="legend-falls" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="1.6" height="8" fill="var(--ink)" />
        </pattern>
      </defs>
      {[-1, -0.4, 0, 0.4, 1].map((t, i) => (
        <g key={t}>
          <rect x={i * 56} width="56" height="15" fill="var(--w1)" />
          <rect
            x={i * 56}
            width="56"
            height="15"
            fill={t > 0 ? 'var(--fish)' : 'var(--act)'}
            opacity={strength(Math.abs(t) * full, full) * 0.9}
          />
          {t < 0 && <rect x={i * 56} width="56" height="15" fill="url(#legend-falls)" />}
          <text x={i * 56 + 28} y="32" textAnchor="middle" fontSize="12" fill="var(--ink)" className="num">
            {t > 0 ? '+' : t < 0 ? '−' : ''}
            {percent(Math.abs(t) * full)}
          </text>
        </g>
      ))}
    </svg>
  );
}

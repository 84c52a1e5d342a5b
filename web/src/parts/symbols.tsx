/** The signs of the logbook: fish are lens shapes, bait a stipple, cover a hatch, a blank an open ring. Colour never stands alone. */

/** Outline of a fish seen from the side, centred, `s` half its length. */
export const lensPath = (x: number, y: number, s: number): string =>
  `M${x - s} ${y}C${x - s * 0.45} ${y - s * 0.62},${x + s * 0.45} ${y - s * 0.62},${x + s * 0.72} ${y}C${x + s * 0.45} ${y + s * 0.62},${x - s * 0.45} ${y + s * 0.62},${x - s} ${y}Z` +
  `M${x + s * 0.66} ${y}L${x + s * 1.15} ${y - s * 0.38}L${x + s * 1.15} ${y + s * 0.38}Z`;

const STIPPLE = [
  [4, 6],
  [10, 3],
  [16, 6],
  [21, 11],
  [7, 12],
  [13, 10],
  [18, 15],
  [11, 17],
  [5, 17],
];

export function KindSymbol({ kind, size = 26, colour }: { kind: string; size?: number; colour?: string }) {
  const c = (name: string): string => colour ?? `var(--${name})`;
  return (
    <svg width={size} height={size * 0.8} viewBox="0 0 26 20" aria-hidden="true" className="shrink-0">
      {kind === 'fish' && <path d={lensPath(12, 10, 10)} fill={c('fish')} />}
      {kind === 'bait' && STIPPLE.map(([x, y]) => <circle key={`${x} ${y}`} cx={x} cy={y} r="1.9" fill={c('bait')} />)}
      {kind === 'cover' && (
        <g stroke={c('cover')} fill="none" strokeWidth="2.2">
          <path d="M3 19L7 6L11 12L15 2L19 13L23 19Z" />
          <path d="M7 18l4-6M12 18l4-9M17 18l2-4" strokeWidth="1.6" />
        </g>
      )}
      {kind === 'bottom' && <rect x="2" y="11" width="22" height="7" fill={c('foot')} />}
      {kind === 'weed' && (
        <path d="M6 19c0-6 4-6 3-14M13 19c0-5 3-7 1-13M20 19c-1-6 2-7 0-12" stroke={c('cover')} strokeWidth="2.4" fill="none" />
      )}
      {kind === 'thermocline' && (
        <path d="M2 7c4-5 7 5 11 0s7 5 11 0M2 14c4-5 7 5 11 0s7 5 11 0" stroke={c('therm')} strokeWidth="2.2" fill="none" />
      )}
      {kind === 'hazard' && <path d="M13 2L24 18H2Z M13 8v5M13 15.4v.6" stroke={c('warn')} strokeWidth="2.2" fill="none" />}
      {kind === 'blank' && <circle cx="13" cy="10" r="7" fill="none" stroke={colour ?? 'currentColor'} strokeWidth="2.4" />}
    </svg>
  );
}

export function Mark() {
  return (
    <svg width="56" height="34" viewBox="0 0 58 34" aria-hidden="true">
      <path d={lensPath(14, 10, 9) + lensPath(36, 8, 7) + lensPath(46, 21, 6)} fill="var(--act)" />
      <path d={lensPath(26, 23, 8)} fill="var(--fish)" />
    </svg>
  );
}

import { useMemo } from 'react';
import { bandShare, hypsographOf, volumeBetween } from '@restless-shoal/core/chart';
import { DepthBand } from '../../parts/depth-band';
import { hectares, percent, depthRange, depthText } from '../../parts/format';
import { useUnits } from '../../state/units';
import { useWaterState } from '../../state/water';
import { chart as msg, decimal, term } from '../../words';

interface BandPanelProps {
  shaded: boolean;
  onShade: (shaded: boolean) => void;
  band: [number, number];
  onBand: (band: [number, number]) => void;
  max: number;
  /** Depths that can hold the species today; null when there are none. */
  window: [number, number] | null;
}

/** Shades a depth band: what is out fades, what is left is counted. */
export function BandPanel({ shaded, onShade, band, onBand, max, window }: BandPanelProps) {
  const { chart, species } = useWaterState();
  const { depth: unit } = useUnits();
  const share = useMemo(() => bandShare(chart!.cells, band[0], band[1]), [chart, band]);
  const hypsograph = useMemo(() => hypsographOf(chart!.cells, chart!.deepest), [chart]);
  const total = hypsograph.area[0] || 1;
  const path = hypsograph.depth
    .map((z, k) => `${k ? 'L' : 'M'}${((z / max) * 300).toFixed(1)} ${(44 - (hypsograph.area[k] / total) * 42).toFixed(1)}`)
    .join('');
  return (
    <>
      <label className="flex min-h-11 cursor-pointer items-center gap-3">
        <input type="checkbox" className="toggle" checked={shaded} onChange={(e) => onShade(e.target.checked)} />
        <span className="font-bold">{msg('bandPanel.shadeADepthBand')}</span>
      </label>
      {shaded && (
        <>
          <p className="num flex justify-between text-lg font-bold">
            <span>{depthRange(band[0], band[1], unit)}</span>
            <span data-testid="share">{msg('bandPanel.ofTheWater', { bottom: percent(share.bottom) })}</span>
          </p>
          <DepthBand max={max} band={band} onChange={onBand} />
          <p className="text-sm text-mute">{msg('bandPanel.paleAFurtherWhere', { over: percent(share.over), out: percent(share.out) })}</p>
          <button
            type="button"
            className="btn mt-2 h-auto min-h-11 w-full justify-start py-1 text-left leading-tight"
            disabled={!window}
            onClick={() => window && onBand(window)}
          >
            {msg('bandPanel.depthsForToday', { name: term(species.name) })}{' '}
            <span className="num whitespace-nowrap">{window ? depthRange(window[0], window[1], unit) : term('none')}</span>
          </button>
          <figure className="mt-3">
            <svg
              viewBox="0 0 300 46"
              className="h-14 w-full"
              preserveAspectRatio="none"
              role="img"
              aria-label={msg('bandPanel.areaOfTheWater')}
            >
              <rect x={(band[0] / max) * 300} width={((band[1] - band[0]) / max) * 300} y="0" height="46" fill="var(--act)" opacity=".25" />
              <path d={`${path}L${(hypsograph.depth[hypsograph.depth.length - 1] / max) * 300} 44L0 44Z`} fill="var(--w2)" opacity=".55" />
              <path d={path} fill="none" stroke="var(--ink)" strokeWidth="1.5" vectorEffect="non-scaling-stroke" />
            </svg>
            <figcaption className="num text-xs text-mute">
              <span className="flex justify-between">
                <span>{msg('bandPanel.surface')}</span>
                <span>{msg('bandPanel.areaAtEachDepth')}</span>
                <span>{depthText(max, unit)}</span>
              </span>
              {msg('bandPanel.inAllTheBand', {
                total: hectares(total),
                total2: hectares(total * share.bottom),
                hypsograph: decimal(volumeBetween(hypsograph, band[0], band[1]) / 1e6, 1),
              })}
            </figcaption>
          </figure>
        </>
      )}
    </>
  );
}

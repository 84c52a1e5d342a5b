import type { PartPreview } from '@restless-shoal/core/contract';
import { Column } from '../column';
import { depthRange } from '../format';
import { useUnits } from '../../state/units';
import { imports as msg, decimal } from '../../words';

const SIZE = 190;

/** The first soundings from above, deeper ones darker, and as a Column: whether they lie where and as deep as they should. */
export function PreviewPlot({ soundings }: { soundings: PartPreview['soundings'] }) {
  const { depth: unit } = useUnits();
  const [lat, lon] = [soundings.map((s) => s.latitude), soundings.map((s) => s.longitude)];
  const [south, north, west, east] = [Math.min(...lat), Math.max(...lat), Math.min(...lon), Math.max(...lon)];
  const narrow = Math.cos((((south + north) / 2) * Math.PI) / 180);
  const span = Math.max(north - south, (east - west) * narrow, 1e-6);
  const depths = soundings.map((s) => s.depth_m);
  const [shallowest, deepest] = [Math.min(...depths), Math.max(...depths)];
  const x = (v: number): number => SIZE / 2 + (((v - (west + east) / 2) * narrow) / span) * (SIZE - 24);
  const y = (v: number): number => SIZE / 2 - ((v - (south + north) / 2) / span) * (SIZE - 24);
  return (
    <figure className="flex items-end gap-3">
      <svg
        width={SIZE}
        height={SIZE}
        role="img"
        aria-label={msg('previewPlot.theFirstSoundingsOn')}
        className="rounded-box border border-line bg-ground"
      >
        {soundings.map((s, k) => (
          <circle
            key={k}
            cx={x(s.longitude)}
            cy={y(s.latitude)}
            r="3"
            fill={`color-mix(in srgb, var(--w4) ${Math.round((100 * (s.depth_m - shallowest)) / Math.max(0.1, deepest - shallowest))}%, var(--w1))`}
          />
        ))}
      </svg>
      <Column
        width={54}
        height={SIZE - 20}
        max={Math.max(1, deepest * 1.08)}
        bottom={Math.max(0.3, deepest)}
        band={{ top: shallowest, bottom: deepest }}
        label={msg('previewPlot.fromToMDeep', { shallowest: shallowest, deepest: deepest })}
      />
      <figcaption className="num text-sm text-mute">
        {msg('previewPlot.deep', { shallowest: depthRange(shallowest, deepest, unit) })}
        <span className="block">
          {((south + north) / 2).toFixed(4)}, {((west + east) / 2).toFixed(4)}
        </span>
        <span className="block">
          {span * 111 < 1
            ? msg('previewPlot.mAcross', { span: span * 111_195 })
            : msg('previewPlot.kmAcross', { span: decimal(span * 111.195, 1) })}
        </span>
        <span className="block">{msg('previewPlot.utc', { time: soundings[0].time.slice(0, 16).replace('T', ' ') })}</span>
      </figcaption>
    </figure>
  );
}

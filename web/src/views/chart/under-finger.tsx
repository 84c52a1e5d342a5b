import { X } from 'lucide-react';
import type { ChartFeature } from '@restless-shoal/core/chart';
import { metricPlane, type Point } from '@restless-shoal/core/geo';
import { oxygenHoldsTo } from '@restless-shoal/core/lake';
import { Column } from '../../parts/column';
import { percent, depthText } from '../../parts/format';
import { useUnits } from '../../state/units';
import { useWaterState } from '../../state/water';
import { sharpnessWords, shapeWords } from './shape-words';
import { chart as msg, decimal, term } from '../../words';

/** What lies under the finger, as a Column. */
export function UnderFinger({ point }: { point: Point }) {
  const { chart, day, species } = useWaterState();
  const { depth: unit } = useUnits();
  const at = (raster: 'depth' | 'hardness' | 'quality'): number => chart![raster].at(point[0], point[1]);
  const [depth, hardness, error] = [at('depth'), at('hardness'), at('quality')];
  const position = metricPlane(chart!.epsg).toLatLon(point);
  const oxygen = oxygenHoldsTo(day.column.samples, species.leastOxygen);
  return (
    <div className="flex gap-3" data-testid="under-finger">
      {Number.isNaN(depth) ? (
        <p className="text-mute">{msg('underFinger.landOrNotSounded')}</p>
      ) : (
        <>
          <Column
            width={46}
            height={96}
            max={Math.max(6, Math.ceil(chart!.deepest))}
            bottom={depth}
            hardness={Number.isNaN(hardness) ? null : hardness}
            thermocline={day.column.thermocline}
            oxygenTo={oxygen}
          />
          <div>
            <p className="num text-2xl font-bold leading-tight">{depthText(depth, unit)}</p>
            {!Number.isNaN(error) && (
              <p className="num text-sm text-mute">
                ± {depthText(error, unit)} {error > 0.6 ? msg('underFinger.littleSoundedHere') : ''}
              </p>
            )}
            <p className="text-sm text-mute">
              {Number.isNaN(hardness)
                ? msg('underFinger.hardnessNotKnown')
                : msg('underFinger.bottom', {
                    hardness: term(hardness > 0.6 ? 'hard' : hardness < 0.35 ? 'soft' : 'firm'),
                    hardness2: decimal(hardness, 2),
                  })}
            </p>
          </div>
        </>
      )}
      <p className="num ml-auto self-end text-xs text-mute">
        {position.latitude.toFixed(5)}
        <br />
        {position.longitude.toFixed(5)}
      </p>
    </div>
  );
}

/** The shape that was pressed. */
export function ChosenShape({ shape, onClose }: { shape: ChartFeature; onClose: () => void }) {
  const { depth: unit } = useUnits();
  const sharp = sharpnessWords(shape);
  return (
    <div className="mb-2 flex items-start gap-2 border-b border-line pb-2" data-testid="chosen-shape">
      <div className="min-w-0 flex-1">
        <p className="font-bold">{shape.kind[0].toUpperCase() + shape.kind.slice(1)}</p>
        <p className="num text-sm">{shapeWords(shape, unit)}</p>
        <p className="num text-sm text-mute">
          {msg('underFinger.sure', { value: sharp ? `${sharp} · ` : '', confidence: percent(shape.confidence) })}
        </p>
      </div>
      <button type="button" className="btn btn-ghost touch-target px-2" aria-label={msg('underFinger.closeThisShape')} onClick={onClose}>
        <X aria-hidden size={20} />
      </button>
    </div>
  );
}

import { X } from 'lucide-react';
import { useMemo } from 'react';
import type { ChartFeature } from '@restless-shoal/core/chart';
import { metricPlane, type Point } from '@restless-shoal/core/geo';
import { oxygenHoldsTo } from '@restless-shoal/core/lake';
import { nextCrossing, tideOf } from '@restless-shoal/core/tide';
import { Column } from '../../parts/column';
import { clockInZone, percent, depthText } from '../../parts/format';
import { useUnits } from '../../state/units';
import { useWaterState } from '../../state/water';
import { sharpnessWords, shapeWords } from './shape-words';
import { chart as msg, decimal, term } from '../../words';

/** When a place that falls dry is covered or bared next; null where no tide is known, or none that does either. */
function useCrossing(height: number): string | null {
  const { water, conditions } = useWaterState();
  const minute = Math.floor(conditions.at.getTime() / 60_000);
  return useMemo(() => {
    const tide = height > 0 ? tideOf(water.tide) : null;
    const next = tide && nextCrossing(tide, height, minute * 60_000);
    if (!next) return null;
    return msg(next.rising ? 'underFinger.coveredFrom' : 'underFinger.dryFrom', { at: clockInZone(new Date(next.at), water.time_zone) });
  }, [water.tide, water.time_zone, height, minute]);
}

/** What lies under the finger, as a Column; ground that falls dry with when it does. */
export function UnderFinger({ point }: { point: Point }) {
  const { chart, day, species } = useWaterState();
  const { depth: unit } = useUnits();
  const at = (raster: 'depth' | 'hardness' | 'quality'): number => chart![raster].at(point[0], point[1]);
  const [depth, hardness, error] = [at('depth'), at('hardness'), at('quality')];
  const position = metricPlane(chart!.epsg).toLatLon(point);
  const oxygen = oxygenHoldsTo(day.column.samples, species.leastOxygen);
  // Over the datum: what the tide rises to.
  const height = Number.isNaN(depth) ? 0 : day.level - depth;
  const crossing = useCrossing(height);
  return (
    <div className="flex gap-3" data-testid="under-finger">
      {Number.isNaN(depth) ? (
        <p className="text-mute">{msg('underFinger.landOrNotSounded')}</p>
      ) : depth <= 0 ? (
        <div>
          <p className="text-2xl font-bold leading-tight">{msg('underFinger.dry')}</p>
          <p className="num text-sm">
            {height > 0
              ? msg('underFinger.overBoth', { height: -depth, drying: height })
              : msg('underFinger.overTheWater', { height: -depth })}
          </p>
          {crossing && <p className="num text-sm font-semibold">{crossing}</p>}
        </div>
      ) : (
        <>
          <Column
            width={46}
            height={96}
            max={Math.max(6, Math.ceil(chart!.deepest))}
            bottom={depth}
            hardness={Number.isNaN(hardness) ? null : hardness}
            thermocline={day.column.thermocline}
            halocline={day.halocline}
            oxygenTo={oxygen}
          />
          <div>
            <p className="num text-2xl font-bold leading-tight">{depthText(depth, unit)}</p>
            {!Number.isNaN(error) && (
              <p className="num text-sm text-mute">
                ± {depthText(error, unit)} {error > 0.6 ? msg('underFinger.littleSoundedHere') : ''}
              </p>
            )}
            {crossing && <p className="num text-sm font-semibold">{crossing}</p>}
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

import { Navigation, X } from 'lucide-react';
import type { GoBack } from '@restless-shoal/core/passage';
import { compass } from '../../parts/format';
import { deck as msg, term } from '../../words';

/** The way back to a mark, as it is now: where it lies from the bow, how far, and how to come to it. */
export function GoBackBar({ way, words, wind, onStop }: { way: GoBack; words: string; wind: string | null; onStop: () => void }) {
  const side =
    Math.abs(way.turn) < 5 ? msg('goBack.ahead') : `${Math.abs(way.turn).toFixed(0)}° ${term(way.turn > 0 ? 'starboard' : 'port')}`;
  return (
    <section
      aria-label={msg('goBack.goBack')}
      className="flex w-full items-center gap-2 rounded-box border-2 border-act bg-surface px-2 py-1"
    >
      <Navigation size={34} className="shrink-0 text-act" style={{ transform: `rotate(${way.turn - 45}deg)` }} aria-hidden />
      <div className="min-w-0 flex-1 leading-tight">
        <p className="num font-semibold" data-testid="go-back">
          {msg('goBack.mFromTheBow', { metres: Math.round(way.metres), side })}{' '}
          <span className="font-normal text-mute">({way.bearing.toFixed(0)}°)</span>
        </p>
        <p className="num text-xs text-mute">
          {msg('goBack.stayMOffCast', {
            words,
            value: way.moved >= 1 ? msg('goBack.mayBeMOff', { moved: Math.round(way.moved) }) : '',
            holdOff: Math.round(way.holdOff),
            wind: wind ? msg('goBack.holdOfIt', { wind: compass((Number(wind) + 180) % 360) }) : '',
            cast: Math.round(way.cast),
          })}
        </p>
      </div>
      <button type="button" className="btn touch-target px-2" aria-label={msg('goBack.noLongerGoBack')} onClick={onStop}>
        <X size={20} aria-hidden />
      </button>
    </section>
  );
}

import { Navigation, X } from 'lucide-react';
import type { GoBack } from '@restless-shoal/core/passage';
import { compass } from '../../parts/format';
import { Say } from '../../parts/say';

/** The way back to a mark, as it is now: where it lies from the bow, how far, and how to come to it. */
export function GoBackBar({ way, words, wind, onStop }: { way: GoBack; words: string; wind: string | null; onStop: () => void }) {
  const side = Math.abs(way.turn) < 5 ? 'ahead' : `${Math.abs(way.turn).toFixed(0)}° ${way.turn > 0 ? 'starboard' : 'port'}`;
  return (
    <section aria-label="Go back" className="flex w-full items-center gap-2 rounded-box border-2 border-act bg-surface px-2 py-1">
      <Navigation size={34} className="shrink-0 text-act" style={{ transform: `rotate(${way.turn - 45}deg)` }} aria-hidden />
      <div className="min-w-0 flex-1 leading-tight">
        <p className="num font-semibold" data-testid="go-back">
          <Say>
            {way.metres.toFixed(0)} m from the bow, {side} <span className="font-normal text-mute">({way.bearing.toFixed(0)}°)</span>
          </Say>
        </p>
        <p className="num text-xs text-mute">
          <Say>
            {words}
            {way.moved >= 1 && `, may be ${way.moved.toFixed(0)} m off by now`} · stay {way.holdOff.toFixed(0)} m off
            {wind ? `, hold ${compass((Number(wind) + 180) % 360)} of it` : ''}, cast {way.cast.toFixed(0)} m
          </Say>
        </p>
      </div>
      <button type="button" className="btn touch-target px-2" aria-label="No longer go back" onClick={onStop}>
        <X size={20} aria-hidden />
      </button>
    </section>
  );
}

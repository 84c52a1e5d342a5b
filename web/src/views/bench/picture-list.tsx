import { Minus, Plus, Trash2 } from 'lucide-react';
import type { PictureReading, Read, ReadingTrouble } from '@restless-shoal/core/sonar';
import { bench as msg, capital, formatDepth, term } from '../../words';
import type { PictureTarget, PictureView } from './picture-state';

/** What was touched, each with what it comes to; counts are corrected here. */
export function PictureList({
  view,
  targets,
  readings,
  onCount,
  onRemove,
}: {
  view: PictureView;
  targets: readonly PictureTarget[];
  /** None before the picture has a scale. */
  readings: readonly (PictureReading | ReadingTrouble)[];
  onCount: (id: number, count: number) => void;
  onRemove: (id: number) => void;
}) {
  return (
    <ol className="mt-2 flex flex-col gap-2" aria-label={msg('picture.whatWasRead')}>
      {targets.map((t, k) => (
        <li key={t.id} className="rounded border border-line bg-surface p-2">
          <div className="flex items-center gap-2">
            <b className="num">{k + 1}</b>
            <span className="flex-1">{capital(term(t.kind))}</span>
            {(t.kind === 'fish' || t.kind === 'bait') && (
              <span className="flex items-center gap-1">
                <button
                  type="button"
                  className="btn touch-target px-2"
                  aria-label={msg('picture.fewer')}
                  onClick={() => onCount(t.id, Math.max(1, t.count - 1))}
                >
                  <Minus size={18} aria-hidden />
                </button>
                <b className="num min-w-8 text-center">{t.count}</b>
                <button
                  type="button"
                  className="btn touch-target px-2"
                  aria-label={msg('picture.more')}
                  onClick={() => onCount(t.id, t.count + 1)}
                >
                  <Plus size={18} aria-hidden />
                </button>
              </span>
            )}
            <button
              type="button"
              className="btn btn-ghost touch-target px-2"
              aria-label={msg('picture.remove', { k: k + 1 })}
              onClick={() => onRemove(t.id)}
            >
              <Trash2 size={18} aria-hidden />
            </button>
          </div>
          {t.counted && (
            <p className={`text-sm ${t.counted.sure ? 'text-mute' : 'text-warn'}`}>
              {msg(t.counted.sure ? 'picture.counted' : 'picture.notCounted', { n: t.counted.count })}
            </p>
          )}
          {readings[k] && <Reading reading={readings[k]} />}
          {view === 'side-scan' && t.kind === 'fish' && !t.shadow && readings[k] && typeof readings[k] !== 'string' && (
            <p className="text-sm text-mute">{msg('picture.noShadow')}</p>
          )}
        </li>
      ))}
    </ol>
  );
}

const exact = ({ value, error }: Read): string => msg('sideScan.plusMinus', { value: formatDepth(value), error: formatDepth(error) });

/** What a target comes to, or why it cannot be read. */
export function Reading({ reading }: { reading: PictureReading | ReadingTrouble }) {
  if (typeof reading === 'string') return <p className="text-warn">{msg(`picture.reading.${reading}`)}</p>;
  const { depth, starboard, ahead, over } = reading;
  return (
    <p className="num">
      {[
        depth && msg('picture.deep', { depth: exact(depth) }),
        over && msg('picture.over', { over: exact(over) }),
        starboard &&
          msg('picture.aside', {
            side: starboard.value < 0 ? 'port' : 'starboard',
            far: exact({ ...starboard, value: Math.abs(starboard.value) }),
          }),
        ahead && msg('picture.ahead', { far: exact(ahead) }),
      ]
        .filter(Boolean)
        .join(' · ')}
    </p>
  );
}

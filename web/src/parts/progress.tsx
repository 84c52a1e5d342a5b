import { percent } from './format';
import { parts as msg } from '../words';

/** A long job: what it is at, how far, and a way to stop it. */
export function Progress({ words, share, onCancel }: { words: string; share: number; onCancel?: () => void }) {
  return (
    <div className="flex items-center gap-3" role="status" data-testid="progress">
      <div className="min-w-0 flex-1">
        <p className="num flex justify-between gap-2 text-sm">
          <span className="truncate">{words}</span>
          <span>{percent(share)}</span>
        </p>
        <progress className="progress progress-primary h-2 w-full" aria-label={words} value={share} max={1} />
      </div>
      {onCancel && (
        <button type="button" className="btn touch-target" onClick={onCancel}>
          {msg('progress.cancel')}
        </button>
      )}
    </div>
  );
}

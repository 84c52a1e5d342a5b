import { RefreshCw } from 'lucide-react';
import { forecast as msg } from '../../words';

/** Offers a fit of what is new in the log, and shows one that runs. */
export function FitButton({
  stale,
  fitted,
  progress,
  onRefit,
  onCancel,
}: {
  stale: boolean;
  fitted: boolean;
  progress: { share: number; error: string | null } | null;
  onRefit: () => void;
  onCancel: () => void;
}) {
  if (progress?.error)
    return (
      <p role="alert" className="rounded-box border border-warn bg-surface px-3 py-2">
        {msg('fitButton.theUpdateFailedThe', { error: progress.error })}{' '}
        <button type="button" className="btn btn-sm" onClick={onRefit}>
          {msg('fitButton.tryAgain')}
        </button>
      </p>
    );
  if (progress)
    return (
      <div role="status" className="flex items-center gap-3 rounded-box border border-line bg-surface px-3 py-2">
        <span>{msg('fitButton.updatingTheForecast')}</span>
        <progress className="progress progress-primary w-28" value={progress.share} max={1} />
        <button type="button" className="btn btn-sm" onClick={onCancel}>
          {msg('fitButton.cancel')}
        </button>
      </div>
    );
  if (!fitted || !stale) return null;
  return (
    <button type="button" className="btn btn-primary touch-target" onClick={onRefit}>
      <RefreshCw size={18} aria-hidden /> {msg('fitButton.updateForecastThereIs')}
    </button>
  );
}

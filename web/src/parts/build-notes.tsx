import { useState } from 'react';
import type { Builds } from '../state/jobs';
import { Progress } from './progress';

const NAMES = { chart: 'New chart', import: 'Import', fit: 'Fit', score: 'Scoring' } as const;

/** The builds under way, each with its progress; and one that came to nothing, with why and what to do. */
export function BuildNotes({ builds: { running, undone, cancel, again, dismiss } }: { builds: Builds }) {
  const [failed, setFailed] = useState<string | null>(null);
  const attempt = (work: () => Promise<void>): void => {
    setFailed(null);
    work().catch((error: Error) => setFailed(error.message));
  };
  const box = 'rounded-box border border-line bg-surface p-3';
  return (
    <>
      {running.map((job) => (
        <div key={job.id} className={box}>
          <Progress
            words={`${NAMES[job.kind]}: ${job.words ?? 'waiting its turn'}`}
            share={job.share}
            onCancel={() => attempt(() => cancel(job.id))}
          />
        </div>
      ))}
      {(undone ?? failed) && (
        <div role="alert" className={`${box} border-l-4 border-l-warn`}>
          <p className="font-semibold">
            {failed ??
              `${NAMES[undone!.kind]} ${undone!.state === 'cancelled' ? 'cancelled' : `failed: ${undone!.error ?? 'no reason given'}`}.`}
          </p>
          {undone && <p className="text-sm text-mute">The chart is the one from before. What had been logged or brought in is safe.</p>}
          <div className="mt-2 flex gap-2">
            {undone && (
              <button type="button" className="btn touch-target flex-1" onClick={() => attempt(again)}>
                Build the chart again
              </button>
            )}
            <button
              type="button"
              className="btn touch-target"
              onClick={() => {
                setFailed(null);
                dismiss();
              }}
            >
              Leave it
            </button>
          </div>
        </div>
      )}
    </>
  );
}

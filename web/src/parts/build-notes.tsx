import { useState } from 'react';
import type { Builds } from '../state/jobs';
import { Progress } from './progress';
import { parts as msg } from '../words';

const NAMES = {
  chart: msg('buildNotes.newChart'),
  import: msg('buildNotes.import'),
  looks: msg('buildNotes.looks'),
  fit: msg('buildNotes.forecast'),
  score: msg('buildNotes.accuracy'),
} as const;

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
            words={`${NAMES[job.kind]}: ${job.words ?? msg('buildNotes.waitingItsTurn')}`}
            share={job.share}
            onCancel={() => attempt(() => cancel(job.id))}
          />
        </div>
      ))}
      {(undone ?? failed) && (
        <div role="alert" className={`${box} border-l-4 border-l-warn`}>
          <p className="font-semibold">
            {(failed ?? undone!.state === 'cancelled')
              ? msg('buildNotes.cancelled', { job: NAMES[undone!.kind] })
              : msg('buildNotes.failed', { job: NAMES[undone!.kind], why: undone!.error ?? msg('buildNotes.noReasonGiven') })}
          </p>
          {undone && <p className="text-sm text-mute">{msg('buildNotes.thePreviousChartIs')}</p>}
          <div className="mt-2 flex gap-2">
            {undone && (
              <button type="button" className="btn touch-target flex-1" onClick={() => attempt(again)}>
                {msg('buildNotes.buildTheChartAgain')}
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
              {msg('buildNotes.leaveIt')}
            </button>
          </div>
        </div>
      )}
    </>
  );
}

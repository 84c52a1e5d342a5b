import { useQueryClient } from '@tanstack/react-query';
import { FileUp, MapPinPlus, Ship } from 'lucide-react';
import { useState } from 'react';
import type { DemoName } from '@restless-shoal/core/contract';
import { ask } from '../../api/client';
import type { JobState } from '../../api/queries';
import { Progress } from '../../parts/progress';
import { Mark } from '../../parts/symbols';
import { refresh } from '../../state/jobs';
import { useImporting } from '../../state/importing';
import { NewWater, type NextStep } from './new-water';
import { TrashLink } from './trash';
import { waters as msg } from '../../words';

/** Loads the demo water and tells how far it is. @returns its water's id */
async function loadDemo(which: DemoName, onProgress: (state: JobState) => void): Promise<string> {
  const { job } = await ask('POST /demo', {}, { body: { which } });
  for (;;) {
    const state = await ask('GET /jobs/:job', { job });
    if (state.state === 'done') return (state.result as { water: string }).water;
    if (state.state === 'failed' || state.state === 'cancelled') throw new Error(state.error ?? msg('firstStart.theDemoWasNot'));
    onProgress(state);
    await new Promise((done) => setTimeout(done, 500));
  }
}

/** What an empty installation shows: three ways to begin. */
export function FirstStart({ onMade }: { onMade: (id: string, next: NextStep | null) => void }) {
  const queries = useQueryClient();
  const importing = useImporting();
  const [starting, setStarting] = useState(false);
  const [demo, setDemo] = useState<JobState | 'asked' | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const tryDemo = (which: DemoName): void => {
    setDemo('asked');
    setFailed(null);
    loadDemo(which, setDemo)
      .then(async (id) => {
        await refresh(queries);
        onMade(id, null);
      })
      .catch((error: Error) => setFailed(error.message))
      .finally(() => setDemo(null));
  };
  const way = 'btn h-auto min-h-20 w-full justify-start gap-4 px-4 py-3 text-left text-lg leading-tight';
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto flex min-h-full max-w-lg flex-col justify-center gap-4 p-5">
        <div className="flex items-center gap-3">
          <Mark />
          <h1 className="text-2xl font-bold">{msg('firstStart.restlessShoal')}</h1>
        </div>
        <p className="text-mute">{msg('firstStart.aLogbookThatKnows')}</p>
        {starting ? (
          <section aria-label={msg('firstStart.aNewWater')} className="rounded-box border border-line bg-surface p-4">
            <NewWater onMade={onMade} />
            <button type="button" className="btn btn-ghost touch-target mt-2 w-full" onClick={() => setStarting(false)}>
              {msg('firstStart.back')}
            </button>
          </section>
        ) : (
          <>
            <button type="button" className={`${way} btn-primary`} onClick={() => setStarting(true)}>
              <MapPinPlus size={30} aria-hidden />
              <span>
                {msg('firstStart.startAWater')}
                <small className="block font-normal opacity-85">{msg('firstStart.yourOwnLakeReservoir')}</small>
              </span>
            </button>
            <button type="button" className={way} onClick={() => importing(null)}>
              <FileUp size={30} aria-hidden />
              <span>
                {msg('firstStart.importWhatYouHave')}
                <small className="block font-normal text-mute">{msg('firstStart.soundingsTracksAnOutline')}</small>
              </span>
            </button>
            <button type="button" className={way} disabled={demo !== null} onClick={() => tryDemo('lake')}>
              <Ship size={30} aria-hidden />
              <span>
                {msg('firstStart.tryTheDemo')}
                <small className="block font-normal text-mute">{msg('firstStart.aMadeUpLake')}</small>
              </span>
            </button>
            <div className="grid gap-2 sm:grid-cols-2">
              {(
                [
                  ['sound', msg('firstStart.aMadeUpSound')],
                  ['river', msg('firstStart.aMadeUpReach')],
                ] as const
              ).map(([which, words]) => (
                <button
                  key={which}
                  type="button"
                  className="btn btn-ghost touch-target h-auto justify-start border border-line py-2 text-left font-normal"
                  disabled={demo !== null}
                  onClick={() => tryDemo(which)}
                >
                  {words}
                </button>
              ))}
            </div>
          </>
        )}
        {demo !== null && (
          <Progress
            words={demo === 'asked' ? msg('firstStart.makingTheDemoWater') : (demo.words ?? msg('firstStart.waitingItsTurn'))}
            share={demo === 'asked' ? 0 : demo.share}
          />
        )}
        {failed && (
          <p role="alert" className="border-l-4 border-warn pl-3 text-warn">
            {msg('firstStart.nothingWasChangedTry', { failed })}
          </p>
        )}
        <TrashLink />
      </div>
    </div>
  );
}

import { Undo2 } from 'lucide-react';
import { useState } from 'react';
import type { Entry } from '../../offline/outbox';
import { RefusedWrite } from '../../parts/records/refused-write';
import type { Done } from './use-marking';
import { deck as msg, say } from '../../words';

/** What has just happened, with the way back; or what is wrong. */
export function Notice({
  failed,
  refused,
  done,
  trouble,
  waits,
  wide,
  attempt,
  onBoat,
  onOver,
}: {
  failed: string | null;
  /** A write that the server will not take. */
  refused: Entry | undefined;
  done: Done | null;
  /** What is the matter with the boat's position, and whether that needs somebody. */
  trouble: { words: string; warn: boolean } | null;
  /** How much waits to be sent, where the server does not answer. */
  waits: string | null;
  /** The words have a line of their own. */
  wide: boolean;
  /** Asks where the boat is. */
  onBoat: () => void;
  attempt: (work: () => Promise<void>) => void;
  /** One of the ways on was taken. */
  onOver: () => void;
}) {
  if (failed)
    return (
      <p role="alert" className="border-l-4 border-warn pl-2 text-sm text-warn">
        {failed}
      </p>
    );
  if (refused) return <RefusedWrite entry={refused} attempt={attempt} />;
  if (done) return <Said key={done.words} done={done} waits={waits} wide={wide} onOver={onOver} />;
  return (
    trouble && (
      <p className={`flex items-center justify-between gap-2 text-sm ${trouble.warn ? 'text-warn' : 'text-mute'}`}>
        {trouble.words}
        {trouble.warn && (
          <button type="button" className="btn btn-sm touch-target text-ink" onClick={onBoat}>
            {msg('notice.whereIsIt')}
          </button>
        )}
      </p>
    )
  );
}

function Said({ done, waits, wide, onOver }: { done: Done; waits: string | null; wide: boolean; onOver: () => void }) {
  const [how, setHow] = useState(false);
  return (
    <div className="text-sm leading-tight">
      <p className={`flex items-center justify-end gap-1 font-semibold ${wide ? 'flex-wrap' : ''}`}>
        <span className={`line-clamp-2 min-w-0 flex-1 ${wide ? 'basis-full' : ''}`} data-testid="done">
          {done.words}
          {waits && <span className="text-warn"> · {waits}</span>}
        </span>
        {done.same && (
          <button
            type="button"
            className="btn btn-sm touch-target num max-w-28 px-1.5 text-xs leading-tight"
            onClick={() => {
              done.same?.join();
              onOver();
            }}
          >
            {done.same.words}
          </button>
        )}
        {done.workings && (
          <button
            type="button"
            className="btn btn-sm touch-target px-2"
            aria-expanded={how}
            aria-label={msg('notice.howWasThePosition')}
            onClick={() => {
              setHow(!how);
              done.stay?.();
            }}
          >
            {msg('notice.how')}
          </button>
        )}
        <button
          type="button"
          className="btn btn-sm touch-target px-2"
          onClick={() => {
            done.undo();
            onOver();
          }}
        >
          <Undo2 size={16} aria-hidden /> {msg('notice.undo')}
        </button>
      </p>
      {done.advice && (
        <p className="mt-0.5 text-sm" data-testid="worth-stopping">
          <b>
            {done.advice.advice === 'stop'
              ? msg('notice.worthStopping')
              : done.advice.advice === 'go on'
                ? msg('notice.goOnSearching')
                : msg('notice.lookAgainFirst')}
          </b>
          : <span className="num text-mute">{say(done.advice.reason)}</span>
        </p>
      )}
      {how && (
        <ol className="num mt-1 list-decimal pl-5 text-xs text-mute" data-testid="workings">
          {done.workings?.map((step) => (
            <li key={step}>{step}</li>
          ))}
        </ol>
      )}
    </div>
  );
}

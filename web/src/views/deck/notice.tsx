import { Undo2 } from 'lucide-react';
import { useState } from 'react';
import { isConflict } from '../../offline/apply';
import type { Entry } from '../../offline/outbox';
import type { Done } from './use-marking';
import { Say } from '../../parts/say';

/** What a record that was not taken can become. */
function Ways({ ways }: { ways: [words: string, go: () => void][] }) {
  return (
    <span className="mt-1 flex shrink-0 gap-1">
      {ways.map(([words, go]) => (
        <button key={words} type="button" className="btn btn-sm touch-target" onClick={go}>
          {words}
        </button>
      ))}
    </span>
  );
}

/** What has just happened, with the way back; or what is wrong. */
export function Notice({
  failed,
  refused,
  done,
  trouble,
  waits,
  wide,
  onLeaveOut,
  onSendAgain,
  onKeepMine,
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
  onLeaveOut: (entry: Entry) => void;
  onSendAgain: (entry: Entry) => void;
  /** Writes it all the same, over what another device made of it meanwhile. */
  onKeepMine: (entry: Entry) => void;
  /** One of the ways on was taken. */
  onOver: () => void;
}) {
  if (failed)
    return (
      <p role="alert" className="border-l-4 border-warn pl-2 text-sm text-warn">
        {failed}
      </p>
    );
  if (refused && isConflict(refused))
    return (
      <div role="alert" className="border-l-4 border-warn pl-2 text-sm">
        <p className="text-warn">What you changed was changed on another device meanwhile. Both are kept until you choose.</p>
        <Ways
          ways={[
            ['Keep mine', () => onKeepMine(refused)],
            ['Keep the other', () => onLeaveOut(refused)],
          ]}
        />
      </div>
    );
  if (refused)
    return (
      <p role="alert" className="flex items-center justify-between gap-2 border-l-4 border-warn pl-2 text-sm text-warn">
        The server did not take a record: {refused.refused}
        <Ways
          ways={[
            ['Send again', () => onSendAgain(refused)],
            ['Leave it out', () => onLeaveOut(refused)],
          ]}
        />
      </p>
    );
  if (done) return <Said key={done.words} done={done} waits={waits} wide={wide} onOver={onOver} />;
  return (
    trouble && (
      <p className={`flex items-center justify-between gap-2 text-sm ${trouble.warn ? 'text-warn' : 'text-mute'}`}>
        {trouble.words}
        {trouble.warn && (
          <button type="button" className="btn btn-sm touch-target text-ink" onClick={onBoat}>
            Where is it?
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
          <Say>{done.words}</Say>
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
            <Say>{done.same.words}</Say>
          </button>
        )}
        {done.workings && (
          <button
            type="button"
            className="btn btn-sm touch-target px-2"
            aria-expanded={how}
            aria-label="How was the place worked out?"
            onClick={() => {
              setHow(!how);
              done.stay?.();
            }}
          >
            How?
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
          <Undo2 size={16} aria-hidden /> Undo
        </button>
      </p>
      {done.advice && (
        <p className="mt-0.5 text-sm" data-testid="worth-stopping">
          <b>
            {done.advice.advice === 'stop' ? 'Worth stopping' : done.advice.advice === 'go on' ? 'Go on searching' : 'Look again first'}
          </b>
          :{' '}
          <span className="num text-mute">
            <Say>{done.advice.reason}</Say>
          </span>
        </p>
      )}
      {how && (
        <ol className="num mt-1 list-decimal pl-5 text-xs text-mute" data-testid="workings">
          {done.workings?.map((step) => (
            <li key={step}>
              <Say>{step}</Say>
            </li>
          ))}
        </ol>
      )}
    </div>
  );
}

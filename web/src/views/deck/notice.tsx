import { Undo2 } from 'lucide-react';
import type { Entry } from '../../offline/outbox';
import type { Done } from './use-marking';

/** What has just happened, with the way back; or what is wrong. */
export function Notice({
  failed,
  refused,
  done,
  trouble,
  onLeaveOut,
  onOver,
}: {
  failed: string | null;
  /** A write that the server will not take. */
  refused: Entry | undefined;
  done: Done | null;
  /** What is the matter with the boat's position, and whether that needs somebody. */
  trouble: { words: string; warn: boolean } | null;
  onLeaveOut: (entry: Entry) => void;
  /** One of the ways on was taken. */
  onOver: () => void;
}) {
  if (failed)
    return (
      <p role="alert" className="border-l-4 border-warn pl-2 text-sm text-warn">
        {failed}
      </p>
    );
  if (refused)
    return (
      <p role="alert" className="flex items-center justify-between gap-2 border-l-4 border-warn pl-2 text-sm text-warn">
        The server did not take a record: {refused.refused}
        <button type="button" className="btn btn-sm touch-target" onClick={() => onLeaveOut(refused)}>
          Leave it out
        </button>
      </p>
    );
  if (done)
    return (
      <p className="flex items-center justify-between gap-2 text-sm font-semibold leading-tight max-md:gap-1">
        <span className="min-w-0 flex-1" data-testid="done">
          {done.words}
        </span>
        {done.same && (
          <button
            type="button"
            className="btn btn-sm touch-target num max-w-32 px-2 leading-tight"
            onClick={() => {
              done.same?.join();
              onOver();
            }}
          >
            {done.same.words}
          </button>
        )}
        <button
          type="button"
          className="btn btn-sm touch-target"
          onClick={() => {
            done.undo();
            onOver();
          }}
        >
          <Undo2 size={16} aria-hidden /> Undo
        </button>
      </p>
    );
  return trouble && <p className={`text-sm ${trouble.warn ? 'text-warn' : 'text-mute'}`}>{trouble.words}</p>;
}

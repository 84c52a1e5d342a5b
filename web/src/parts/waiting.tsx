import { parts as msg } from '../words';
/** Loading, or failed: what, and what is safe. */
export function Waiting({ what, failed }: { what: string; failed: Error | null }) {
  return failed ? (
    <div role="alert" className="m-auto max-w-md border-l-4 border-warn p-4">
      <p className="font-bold">{msg('waiting.couldNotOpen', { what })}</p>
      <p className="text-mute">{failed.message}</p>
      <button type="button" className="btn mt-3" onClick={() => location.reload()}>
        {msg('waiting.tryAgain')}
      </button>
    </div>
  ) : (
    <div role="status" className="m-auto p-4 text-mute">
      {msg('waiting.opening', { what })}
    </div>
  );
}

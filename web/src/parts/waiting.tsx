/** Loading, or failed: what, and what is safe. */
export function Waiting({ what, failed }: { what: string; failed: Error | null }) {
  return failed ? (
    <div role="alert" className="m-auto max-w-md border-l-4 border-warn p-4">
      <p className="font-bold">Could not open {what}.</p>
      <p className="text-mute">{failed.message}</p>
      <button type="button" className="btn mt-3" onClick={() => location.reload()}>
        Try again
      </button>
    </div>
  ) : (
    <div role="status" className="m-auto p-4 text-mute">
      Opening {what} …
    </div>
  );
}

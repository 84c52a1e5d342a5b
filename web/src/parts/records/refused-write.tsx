import { isConflict, withoutBase } from '../../offline/apply';
import { outbox } from '../../offline/device';
import type { Entry } from '../../offline/outbox';
import { deck as msg } from '../../words';

/** A write that the server did not take: why, and what can become of it. */
export function RefusedWrite({ entry, attempt }: { entry: Entry; attempt: (work: () => Promise<void>) => void }) {
  const leaveOut = (): Promise<void> => outbox.drop(entry.seq);
  /** Over what another device made of it meanwhile. */
  const keepMine = async (): Promise<void> => {
    await outbox.put(entry.method, withoutBase(entry.path), entry.body);
    await leaveOut();
  };
  const conflict = isConflict(entry);
  const ways: [words: string, go: () => Promise<void>][] = conflict
    ? [
        [msg('notice.keepMine'), keepMine],
        [msg('notice.keepTheOther'), leaveOut],
      ]
    : [
        [msg('notice.sendAgain'), () => outbox.sendAgain(entry.seq)],
        [msg('notice.discardIt'), leaveOut],
      ];
  return (
    <div role="alert" className="border-l-4 border-warn pl-2 text-sm">
      <p className="text-warn">
        {conflict ? msg('notice.anotherDeviceChangedThe') : `${msg('notice.theServerRefusedA')} ${entry.refused}`}
      </p>
      <span className="mt-1 flex shrink-0 gap-1">
        {ways.map(([words, go]) => (
          <button key={words} type="button" className="btn btn-sm touch-target" onClick={() => attempt(go)}>
            {words}
          </button>
        ))}
      </span>
    </div>
  );
}

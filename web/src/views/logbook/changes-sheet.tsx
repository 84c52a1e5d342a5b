import { useChanges, type Change } from '../../api/queries';
import { Dialog } from '../../parts/dialog';
import { clockInZone, dayInZone } from '../../parts/format';
import { Waiting } from '../../parts/waiting';
import { logbook as msg, term } from '../../words';

const valueWords = (value: string | number | null | undefined): string =>
  value == null || value === '' ? msg('changesSheet.nothing') : typeof value === 'number' ? String(Number(value.toFixed(5))) : term(value);

const doneWords = ({ record, done }: Change): string =>
  done === 'merged' || done === 'split' ? msg(`history.trips.${done}`) : msg(`history.${record}.${done}`);

/** What was changed, field by field. */
function fieldsOf({ before, after }: Change): string[] {
  return Object.keys(after ?? {}).map((field) =>
    msg('changesSheet.fieldFromTo', { field, from: valueWords(before?.[field]), to: valueWords(after?.[field]) }),
  );
}

/** Who changed what of a trip, and when: the last first. */
export function ChangesSheet({ trip, zone, onClose }: { trip: string; zone: string | null; onClose: () => void }) {
  const { data: changes, error } = useChanges(trip, true);
  return (
    <Dialog title={msg('changesSheet.history')} onClose={onClose}>
      {!changes ? (
        <Waiting what={msg('changesSheet.theHistory')} failed={error} />
      ) : !changes.length ? (
        <p className="text-mute">{msg('changesSheet.nothingWasChanged')}</p>
      ) : (
        <ol className="max-h-[60vh] overflow-y-auto" tabIndex={0} aria-label={msg('changesSheet.changes')}>
          {changes.map((c) => (
            <li key={c.id} className="border-t border-line py-2">
              <b>{doneWords(c)}</b>
              <span className="num block text-sm text-mute">
                {dayInZone(new Date(c.at), zone)} {clockInZone(new Date(c.at), zone)}
                {c.device && ` · ${c.device}`}
              </span>
              {fieldsOf(c).map((words) => (
                <span key={words} className="num block text-sm">
                  {words}
                </span>
              ))}
            </li>
          ))}
        </ol>
      )}
    </Dialog>
  );
}

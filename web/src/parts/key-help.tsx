import { Dialog } from './dialog';
import { parts as msg } from '../words';

const KEYS: [key: string, does: string][] = [
  ['1 – 7', msg('keyHelp.theViews')],
  ['n', msg('keyHelp.dayOrNight')],
  ['w', msg('keyHelp.changeTheConditionsWhat')],
  [msg('keyHelp.tab'), msg('keyHelp.nextFieldOrButton')],
  [msg('keyHelp.arrows'), msg('keyHelp.moveTheMapThe')],
  ['+ −', msg('keyHelp.onTheMapNearer')],
  [msg('keyHelp.enter'), msg('keyHelp.onThePadMark')],
  [msg('keyHelp.esc'), msg('keyHelp.close')],
  ['?', msg('keyHelp.thisList')],
];

export function KeyHelp({ onClose }: { onClose: () => void }) {
  return (
    <Dialog title={msg('keyHelp.keys')} onClose={onClose}>
      <dl className="grid grid-cols-[7rem_1fr] gap-y-2">
        {KEYS.map(([key, does]) => (
          <div key={key} className="contents">
            <dt>
              <kbd className="rounded border border-line bg-ground px-2 py-0.5 font-mono">{key}</kbd>
            </dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  );
}

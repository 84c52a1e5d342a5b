import { Dialog } from './dialog';

const KEYS: [key: string, does: string][] = [
  ['1 – 5', 'Brief, Chart, Deck, Patterns, Forecast'],
  ['n', 'day or night'],
  ['w', 'change the conditions: what if'],
  ['Tab', 'next field or button'],
  ['arrows', 'move the map, the depth on the Column, the aim on the Pad (Shift: larger steps)'],
  ['+ −', 'on the map: nearer, farther'],
  ['Enter', 'on the Pad: mark; on the map: show what lies in the middle'],
  ['Esc', 'close'],
  ['?', 'this list'],
];

export function KeyHelp({ onClose }: { onClose: () => void }) {
  return (
    <Dialog title="Keys" onClose={onClose}>
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

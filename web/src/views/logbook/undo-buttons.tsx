import { Redo2, Undo2 } from 'lucide-react';
import { useEffect, type ReactNode } from 'react';
import { told } from '../../parts/told';
import { edits, useEdits } from '../../state/edits';
import { logbook as msg } from '../../words';

/** Takes back what was done in the Logbook, step by step, and does it again. */
export function UndoButtons({ onFail, always = true }: { onFail: (words: string) => void; always?: boolean }) {
  const { done, undone } = useEdits();
  const step = (label: string, last: string | undefined, work: () => Promise<void>, icon: ReactNode) => (
    <button
      type="button"
      className="btn touch-target px-3"
      aria-label={last ? `${label}: ${last}` : label}
      title={last ? `${label}: ${last}` : label}
      disabled={last === undefined}
      onClick={() => void work().catch((error) => onFail(told(error)))}
    >
      {icon}
    </button>
  );
  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      const field = event.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName);
      if (field || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
      event.preventDefault();
      void (event.shiftKey ? edits.redo() : edits.undo()).catch((error) => onFail(told(error)));
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [onFail]);
  if (!always && !done.length && !undone.length) return null;
  return (
    <>
      {step(msg('tripPage.undo'), done.at(-1)?.words, edits.undo, <Undo2 size={18} aria-hidden />)}
      {step(msg('tripPage.redo'), undone.at(-1)?.words, edits.redo, <Redo2 size={18} aria-hidden />)}
    </>
  );
}

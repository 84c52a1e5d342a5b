import { useEffect, useRef, type ReactNode } from 'react';
import { X } from 'lucide-react';
import { backCloses } from './dialog-history';
import { parts as msg } from '../words';

/** A modal sheet over the view; Esc, Back or a tap beside it closes it. */
export function Dialog({
  title,
  wide = false,
  onClose,
  children,
}: {
  title: string;
  /** For tables. */
  wide?: boolean;
  onClose: () => void;
  children: ReactNode;
}) {
  const ref = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    const dialog = ref.current!;
    if (!dialog.open) dialog.showModal();
    return backCloses(() => ref.current?.close());
  }, []);
  return (
    <dialog
      ref={ref}
      aria-label={title}
      onClose={onClose}
      onClick={(event) => event.target === ref.current && ref.current?.close()}
      className={`m-auto ${wide ? 'w-[min(60rem,calc(100vw-1rem))]' : 'w-[min(34rem,calc(100vw-1.5rem))]'} rounded-box border border-line bg-surface p-0 text-ink backdrop:bg-black/40`}
    >
      <div className="p-5">
        <div className="mb-3 flex items-center justify-between">
          <h2 className="text-xl font-bold">{title}</h2>
          <button
            type="button"
            className="btn btn-ghost touch-target px-2"
            aria-label={msg('dialog.close')}
            onClick={() => ref.current?.close()}
          >
            <X aria-hidden />
          </button>
        </div>
        {children}
      </div>
    </dialog>
  );
}

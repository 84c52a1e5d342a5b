import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { parts as msg } from '../words';

/** Deletes something once somebody has said yes to what goes, in words. What is deleted lies in the trash for 90 days. */
export function DeleteButton({
  label,
  goes,
  onDelete,
  className = 'mt-4',
}: {
  /** "Delete mark" */
  label: string;
  /** What goes: "The mark of 3 fish at 09:12 goes". */
  goes: string;
  onDelete: () => void;
  className?: string;
}) {
  const [asking, setAsking] = useState(false);
  if (!asking)
    return (
      <button type="button" className={`btn h-12 w-full ${className}`} onClick={() => setAsking(true)}>
        <Trash2 size={18} aria-hidden /> {label} …
      </button>
    );
  return (
    <div role="group" aria-label={label} className={`border-l-4 border-warn pl-3 ${className}`}>
      <p>{msg('deleteButton.youCanBringIt', { goes })}</p>
      <div className="mt-2 grid grid-cols-2 gap-2">
        <button type="button" autoFocus className="btn h-12" onClick={() => setAsking(false)}>
          {msg('deleteButton.keep')}
        </button>
        <button type="button" className="btn btn-error h-12" onClick={onDelete}>
          {label}
        </button>
      </div>
    </div>
  );
}

import { CloudUpload } from 'lucide-react';
import { useRef } from 'react';

/** A button that has a table chosen from the device and hands over its text; the same file may be chosen again. */
export function FileButton({ label, onText }: { label: string; onText: (text: string) => void }) {
  const file = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={file}
        type="file"
        accept=".csv,text/csv,text/plain"
        className="sr-only"
        aria-label={label}
        onChange={(e) => {
          const chosen = e.target.files?.[0];
          e.target.value = '';
          if (chosen) void chosen.text().then(onText);
        }}
      />
      <button type="button" className="btn btn-sm touch-target" onClick={() => file.current?.click()}>
        <CloudUpload size={18} aria-hidden /> {label}
      </button>
    </>
  );
}

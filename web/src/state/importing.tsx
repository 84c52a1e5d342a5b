import { createContext, lazy, Suspense, useContext, useEffect, useMemo, useState, type ReactNode } from 'react';

const ImportSheet = lazy(() => import('../parts/import/import-sheet').then((m) => ({ default: m.ImportSheet })));

const Context = createContext<(water: string | null) => void>(() => undefined);

/** Opens the sheet that brings files in: into a water by name, or into a new one. */
export const useImporting = (): ((water: string | null) => void) => useContext(Context);

/** Holds the sheet above all views, so that it outlives the view it was opened from: a first chart changes them all. */
export function ImportingProvider({
  onDone,
  into: asked,
  onTaken,
  children,
}: {
  onDone: (water: string) => void;
  /** A water that was just made, to import files into at once. */
  into: string | null;
  onTaken: () => void;
  children: ReactNode;
}) {
  const [into, setInto] = useState<{ water: string | null } | null>(null);
  useEffect(() => {
    if (asked === null) return;
    setInto({ water: asked });
    onTaken();
  }, [asked, onTaken]);
  const open = useMemo(() => (water: string | null) => setInto({ water }), []);
  return (
    <Context.Provider value={open}>
      {children}
      {into && (
        <Suspense>
          <ImportSheet water={into.water} onClose={() => setInto(null)} onDone={onDone} />
        </Suspense>
      )}
    </Context.Provider>
  );
}

import { useSyncExternalStore } from 'react';

/** Something done to the log, with the ways back and forth. */
export interface Edit {
  /** "Species of a mark changed" */
  words: string;
  undo: () => Promise<void>;
  redo: () => Promise<void>;
}

/** What was done to the log since this page was opened: taken back, and done again, step by step. */
export interface Edits {
  done: readonly Edit[];
  undone: readonly Edit[];
}

/** A history of edits. One step at a time: a second press waits for the first. */
export class EditHistory {
  private state: Edits = { done: [], undone: [] };
  private readonly listeners = new Set<() => void>();
  private busy: Promise<void> = Promise.resolve();

  snapshot = (): Edits => this.state;
  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  private show(state: Edits): void {
    this.state = state;
    this.listeners.forEach((listener) => listener());
  }

  /** Does something that can be taken back. What had been taken back before is forgotten. @throws what doing it throws */
  do(edit: Edit): Promise<void> {
    return this.next(async () => {
      await edit.redo();
      this.show({ done: [...this.state.done, edit], undone: [] });
    });
  }

  /** Takes the last step back; nothing where there is none. */
  undo = (): Promise<void> =>
    this.next(async () => {
      const last = this.state.done.at(-1);
      if (!last) return;
      await last.undo();
      this.show({ done: this.state.done.slice(0, -1), undone: [...this.state.undone, last] });
    });

  /** Does what was taken back last once more; nothing where nothing was. */
  redo = (): Promise<void> =>
    this.next(async () => {
      const last = this.state.undone.at(-1);
      if (!last) return;
      await last.redo();
      this.show({ done: [...this.state.done, last], undone: this.state.undone.slice(0, -1) });
    });

  private next(work: () => Promise<void>): Promise<void> {
    const done = this.busy.then(work);
    this.busy = done.catch(() => undefined);
    return done;
  }
}

/** The edits of this page. */
export const edits = new EditHistory();
export const useEdits = (): Edits => useSyncExternalStore(edits.subscribe, edits.snapshot);

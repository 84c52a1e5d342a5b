import { UNSAFE_createBrowserHistory as createBrowserHistory } from 'react-router';

/** Dialogs that are open, the uppermost last, each with what closes it. */
const open: { close: () => void }[] = [];
let leaving: ReturnType<typeof setTimeout> | null = null;
/** What waits for a step back that is under way, in order; null when none is. */
let waiting: (() => void)[] | null = null;

interface DialogState {
  dialog?: boolean;
}
/** Whether the newest entry of the history is the one that stands for the open dialogs. */
const standing = (): boolean => (window.history.state as DialogState | null)?.dialog === true;
const stand = (): void => window.history.pushState({ ...(window.history.state as object | null), dialog: true }, '');

function stepBack(): void {
  waiting = [];
  window.addEventListener(
    'popstate',
    () => {
      const held = waiting ?? [];
      waiting = null;
      for (const go of held) go();
    },
    { once: true },
  );
  window.history.back();
}

/**
 * The browser's history for the router, aware of the entry that stands for dialogs: a page that is opened takes that
 * entry's place, and one that is asked for while the browser still steps back off it waits. That step would undo it.
 */
export function pageHistory(): ReturnType<typeof createBrowserHistory> {
  // It tells the router of pages opened by push and replace only in this mode, as the router's own does.
  const history = createBrowserHistory({ v5Compat: true });
  const { push, replace } = history;
  history.push = (to, state) => {
    if (waiting) waiting.push(() => history.push(to, state));
    else if (standing()) replace(to, state);
    else push(to, state);
  };
  history.replace = (to, state) => {
    if (waiting) waiting.push(() => replace(to, state));
    else replace(to, state);
  };
  return history;
}

function wentBack(): void {
  // Not the step that a closed dialog takes by itself.
  if (waiting || !open.length || standing()) return;
  open.at(-1)!.close();
  // Those below stay, and Back closes them one by one.
  if (open.length > 1) stand();
}

/**
 * Lets Back close a dialog before it leaves the view: while any is open, one entry of the history stands for them.
 * @returns to be called when the dialog is gone
 */
export function backCloses(close: () => void): () => void {
  const dialog = { close };
  // Added once however often: the same listener.
  window.addEventListener('popstate', wentBack);
  open.push(dialog);
  // One that opens as another closes takes its entry over.
  if (leaving !== null) {
    clearTimeout(leaving);
    leaving = null;
  }
  if (waiting) waiting.push(() => open.length && !standing() && stand());
  else if (!standing()) stand();
  return () => {
    open.splice(open.indexOf(dialog), 1);
    if (open.length || !standing()) return;
    leaving = setTimeout(() => {
      leaving = null;
      if (!waiting && !open.length && standing()) stepBack();
    });
  };
}

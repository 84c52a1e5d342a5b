/** Dialogs that are open, the uppermost last, each with what closes it. */
const open: { close: () => void }[] = [];
let leaving: ReturnType<typeof setTimeout> | null = null;

interface DialogState {
  dialog?: boolean;
}
/** Whether the newest entry of the history is the one that stands for the open dialogs. */
const standing = (): boolean => (window.history.state as DialogState | null)?.dialog === true;
const stand = (): void => window.history.pushState({ ...(window.history.state as object | null), dialog: true }, '');

function wentBack(): void {
  if (!open.length || standing()) return;
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
  if (!standing()) stand();
  return () => {
    open.splice(open.indexOf(dialog), 1);
    if (open.length || !standing()) return;
    leaving = setTimeout(() => {
      leaving = null;
      if (!open.length && standing()) window.history.back();
    });
  };
}

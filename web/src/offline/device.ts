import { useSyncExternalStore } from 'react';
import { ApiError, onEpoch, sendJson } from '../api/client';
import { Fault, Outbox, Refusal, type OutboxState } from './outbox';

/** How often what waits is tried again, ms. */
const AGAIN = 3000;
const NAME = 'restless-shoal-outbox';

const channel = new BroadcastChannel(NAME);

/** The outbox of this device, shared by its tabs. */
export const outbox = new Outbox({
  name: NAME,
  send: async ({ method, path, body }) => {
    try {
      await sendJson(method, path, method === 'DELETE' ? undefined : body);
    } catch (error) {
      // No answer, or a server in trouble: later. Not signed in: later too, once somebody has.
      if (error instanceof ApiError && error.status >= 400 && error.status < 500 && ![401, 408, 429].includes(error.status))
        throw new Refusal(error.message, { cause: error });
      if (error instanceof ApiError && error.status === 500) throw new Fault(error.message, { cause: error });
      throw error;
    }
  },
  // Without a secure context there are no locks; what is sent twice is still one record.
  alone: (work) =>
    'locks' in navigator ? navigator.locks.request(NAME, { ifAvailable: true }, (lock) => (lock ? work() : undefined)) : work(),
  tell: () => channel.postMessage(null),
});

/** What waits on this device and what it sent lately. */
export const useOutbox = (): OutboxState => useSyncExternalStore(outbox.subscribe, outbox.snapshot);

// Once for all that another tab keeps or sends in a row.
let told: ReturnType<typeof setTimeout> | undefined;
channel.onmessage = () => {
  clearTimeout(told);
  told = setTimeout(() => void outbox.reload(), 50);
};
onEpoch((epoch) => outbox.sawEpoch(epoch));
addEventListener('online', () => void outbox.flush());
setInterval(() => {
  if (outbox.snapshot().waiting.some((e) => e.refused === null)) void outbox.flush();
}, AGAIN);
void outbox.load().then(
  () => outbox.flush(),
  () => undefined,
);
// Asks that the browser does not clear it when it runs short of room.
void navigator.storage?.persist?.().catch(() => false);

import { useSyncExternalStore } from 'react';
import { addressOf, type Body, type Params, type Route } from '@restless-shoal/core/contract';
import { ApiError, onEpoch, sendTo } from '../api/client';
import { Fault, Outbox, Refusal, type OutboxState } from './outbox';

/** How often what waits is tried again, ms. */
const AGAIN = 3000;
const NAME = 'restless-shoal-outbox';

const channel = new BroadcastChannel(NAME);

/** The outbox of this device, shared by its tabs. */
export const outbox = new Outbox({
  name: NAME,
  send: async ({ method, path, body }, signal) => {
    try {
      await sendTo(method, path, body, signal);
    } catch (error) {
      // No answer, or a server in trouble: later. Not signed in: later too, once somebody has.
      if (error instanceof ApiError && error.status >= 400 && error.status < 500 && ![401, 408, 429].includes(error.status))
        throw new Refusal(error.message, error.problem?.code, { cause: error });
      if (error instanceof ApiError && error.status === 500) throw new Fault(error.message, { cause: error });
      throw error;
    }
  },
  // Without a secure context there are no locks; what is sent twice is still one record.
  alone: (work) =>
    'locks' in navigator ? navigator.locks.request(NAME, { ifAvailable: true }, (lock) => (lock ? work() : undefined)) : work(),
  tell: () => channel.postMessage(null),
});

/** Keeps a write on the device and sends it as soon as there is a server. @returns once it is safe on the device */
export function keepAndSend<R extends Exclude<Route, `GET ${string}`>>(
  route: R,
  params: Params<R>,
  body?: Body<R>,
  query?: Record<string, string>,
): Promise<void> {
  const [method, path] = addressOf(route, params, query);
  return outbox.put(method, path, body);
}

/** The same for the bytes of a picture. */
export function keepAndSendPicture(trip: string, id: string, picture: Blob): Promise<void> {
  const [method, path] = addressOf('PUT /trips/:trip/photos/:id/picture', { trip, id });
  return outbox.put(method, path, picture);
}

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

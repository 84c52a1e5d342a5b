import { noteServerTime } from './clock';
import { KEPT_AT } from './kept';
import { noteSignedIn } from '../state/signed-in';
import { missed, reached } from './reach';

let epochListener: (epoch: string) => Promise<void> = () => Promise.resolve();
/** Is told with each answer which server gave it; the answer waits for it. */
export const onEpoch = (listener: typeof epochListener): void => {
  epochListener = listener;
};

/** What the server answered instead of doing it; `field` names the input that was wrong. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly field?: string,
  ) {
    super(message);
  }
}

async function send(path: string, init: RequestInit = {}): Promise<Response> {
  let response: Response;
  const asked = Date.now();
  try {
    response = await fetch(`/api${path}`, init);
  } catch {
    missed();
    throw new ApiError(0, 'The server on the boat cannot be reached. What it has stored is safe; nothing new was saved.');
  }
  const kept = response.headers.get(KEPT_AT);
  if (kept) missed(Number(kept));
  else {
    reached();
    const [time, epoch] = [response.headers.get('X-Server-Time'), response.headers.get('X-Epoch')];
    if (time) noteServerTime(Number(time), asked, Date.now());
    if (epoch) await epochListener(epoch);
  }
  if (response.status === 401 && path !== '/session') noteSignedIn(false);
  if (response.ok) return response;
  const body = (await response.json().catch(() => ({}))) as { error?: string; field?: string };
  throw new ApiError(response.status, body.error ?? `The server answered ${response.status}.`, body.field);
}

export const getJson = async <T>(path: string): Promise<T> => (await send(path)).json() as Promise<T>;

/** An object with the time that it speaks of, ms: a little before it was asked for, or when the device kept it. */
export async function getAsOf<T extends object>(path: string): Promise<T & { asOf: number }> {
  const asked = Date.now();
  const response = await send(path);
  const kept = response.headers.get(KEPT_AT);
  // What was kept had been asked for some time before.
  return { ...((await response.json()) as T), asOf: kept ? Number(kept) - 30_000 : asked };
}

/** A binary with the headers it came with; null when there is none. */
export async function getBinary(path: string): Promise<{ bytes: Uint8Array; headers: Headers } | null> {
  const response = await send(path);
  return response.status === 204 ? null : { bytes: new Uint8Array(await response.arrayBuffer()), headers: response.headers };
}

export const sendJson = async <T>(method: 'POST' | 'PUT' | 'DELETE', path: string, body?: unknown): Promise<T> =>
  (
    await send(path, {
      method,
      headers: { 'Content-Type': 'application/json' },
      body: body === undefined ? undefined : JSON.stringify(body),
    })
  ).json() as Promise<T>;

/** Sends a file as it is, telling how many bytes have gone. */
export function sendFile(path: string, file: Blob, signal: AbortSignal, onSent: (bytes: number) => void): Promise<void> {
  return new Promise((done, failed) => {
    // fetch does not tell how much has gone.
    const request = new XMLHttpRequest();
    request.open('PUT', `/api${path}`);
    request.setRequestHeader('Content-Type', 'application/octet-stream');
    request.upload.onprogress = (event) => onSent(event.loaded);
    request.onload = () => {
      if (request.status < 300) return done();
      let answer: { error?: string; field?: string } = {};
      try {
        answer = JSON.parse(request.responseText) as typeof answer;
      } catch {
        // Whatever it was, the status says enough.
      }
      failed(new ApiError(request.status, answer.error ?? `The server answered ${request.status}.`, answer.field));
    };
    request.onerror = () =>
      failed(new ApiError(0, 'The server on the boat cannot be reached. The file was not sent; nothing was changed.'));
    request.onabort = () => failed(new ApiError(0, 'Sending was stopped; nothing was changed.'));
    signal.addEventListener('abort', () => request.abort());
    request.send(file);
  });
}

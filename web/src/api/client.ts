import { addressOf, type Answers, type Body, type JsonRoute, type Params, type Problem, type Route } from '@restless-shoal/core/contract';
import { noteServerTime } from './clock';
import { KEPT_AT } from './kept';
import { deviceName } from '../state/device-name';
import { noteSignedIn } from '../state/signed-in';
import { missed, reached } from './reach';
import { app as msg, problemWords } from '../words';

let epochListener: (epoch: string) => Promise<void> = () => Promise.resolve();
/** Is told with each answer which server gave it; the answer waits for it. */
export const onEpoch = (listener: typeof epochListener): void => {
  epochListener = listener;
};

/** What the server answered instead of doing it, in the reader's words. */
export class ApiError extends Error {
  constructor(
    /** 0 where no answer came. */
    readonly status: number,
    message: string,
    /** What it said; null where no answer came, or one that is none of the server's. */
    readonly problem: Problem | null = null,
  ) {
    super(message);
  }
}

/** An answer that says why not, as an error. @param text its body */
function refusal(status: number, text: string): ApiError {
  try {
    const told = JSON.parse(text) as Partial<Problem>;
    if (told.code !== undefined && told.detail !== undefined) return new ApiError(status, problemWords(told as Problem), told as Problem);
  } catch {
    // Whatever it was, the status says enough.
  }
  return new ApiError(status, msg('client.theServerAnswered', { status }));
}

async function send(path: string, init: RequestInit = {}): Promise<Response> {
  let response: Response;
  const asked = Date.now();
  try {
    response = await fetch(`/api${path}`, init);
  } catch {
    missed();
    throw new ApiError(0, msg('client.theServerOnThe'));
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
  throw refusal(response.status, await response.text());
}

/** What goes with a request beside its address. */
interface Sent<R extends Route> {
  query?: Record<string, string>;
  body?: Body<R>;
  signal?: AbortSignal;
}

/** Sends one request. Addresses come from the contract, so that no route is asked for that there is not. */
export function sendTo(method: string, path: string, body?: unknown, signal?: AbortSignal): Promise<Response> {
  const picture = body instanceof Blob ? body : null;
  const json = picture !== null || method === 'GET' || method === 'DELETE' ? undefined : JSON.stringify(body ?? {});
  const headers: Record<string, string> = method === 'GET' ? {} : { 'X-Device': deviceName() };
  if (json !== undefined) headers['Content-Type'] = 'application/json';
  if (picture) headers['Content-Type'] = 'application/octet-stream';
  return send(path, { method, signal, headers, body: picture ?? json });
}

async function request<R extends Route>(route: R, params: Params<R>, { query, body, signal }: Sent<R> = {}): Promise<Response> {
  const [method, path] = addressOf(route, params, query);
  return sendTo(method, path, body, signal);
}

/**
 * Asks the server. @returns its answer, of the shape that the contract gives the route
 * @throws ApiError in the reader's words
 */
export const ask = async <R extends JsonRoute>(route: R, params: Params<R>, sent?: Sent<R>): Promise<Answers[R]> =>
  (await request(route, params, sent)).json();

/** An answer with the time that it speaks of, ms: a little before it was asked for, or when the device kept it. */
async function requestAsOf<R extends Route>(route: R, params: Params<R>): Promise<{ response: Response; asOf: number }> {
  const asked = Date.now();
  const response = await request(route, params);
  const kept = response.headers.get(KEPT_AT);
  // What was kept had been asked for some time before.
  return { response, asOf: kept ? Number(kept) - 30_000 : asked };
}

export async function askAsOf<R extends JsonRoute>(route: R, params: Params<R>): Promise<Answers[R] & { asOf: number }> {
  const { response, asOf } = await requestAsOf(route, params);
  return { ...(await response.json()), asOf };
}

/** The same of an answer that is a list. */
export async function askListAsOf<R extends JsonRoute>(route: R, params: Params<R>): Promise<{ list: Answers[R]; asOf: number }> {
  const { response, asOf } = await requestAsOf(route, params);
  return { list: await response.json(), asOf };
}

/** An answer that is derived from the log; `deriving` while the server still works on its newest part. */
export interface Derived<T> {
  value: T;
  deriving: boolean;
}

/** Whether the server said so of an answer. One that the device kept stays as it is. */
export const isDeriving = (headers: Headers): boolean => headers.get('X-Deriving') === 'true' && !headers.has(KEPT_AT);

export async function askDerived<R extends JsonRoute>(route: R, params: Params<R>): Promise<Derived<Answers[R]>> {
  const response = await request(route, params);
  return { value: await response.json(), deriving: isDeriving(response.headers) };
}

/** A binary with the headers it came with; null when there is none. */
export async function askBytes<R extends Exclude<Route, JsonRoute>>(
  route: R,
  params: Params<R>,
): Promise<{ bytes: Uint8Array; headers: Headers } | null> {
  const response = await request(route, params);
  return response.status === 204 ? null : { bytes: new Uint8Array(await response.arrayBuffer()), headers: response.headers };
}

/** Sends a file as it is, telling how many bytes have gone. */
export function sendFile(upload: string, file: File, signal: AbortSignal, onSent: (bytes: number) => void): Promise<void> {
  return new Promise((done, failed) => {
    // fetch does not tell how much has gone.
    const request = new XMLHttpRequest();
    const [method, path] = addressOf('PUT /uploads/:upload/:file', { upload, file: file.name });
    request.open(method, `/api${path}`);
    request.setRequestHeader('Content-Type', 'application/octet-stream');
    request.upload.onprogress = (event) => onSent(event.loaded);
    request.onload = () => {
      if (request.status < 300) return done();
      failed(refusal(request.status, request.responseText));
    };
    request.onerror = () => failed(new ApiError(0, msg('client.theServerOnThe2')));
    request.onabort = () => failed(new ApiError(0, msg('client.sendingWasStoppedNothing')));
    signal.addEventListener('abort', () => request.abort());
    request.send(file);
  });
}

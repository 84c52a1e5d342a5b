import { connect, type Socket } from 'node:net';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { LiveNmea, readSentence, type BoatNews } from '@restless-shoal/core/formats';

/** Where the boat's network speaks NMEA 0183 over TCP. */
export interface FeedSettings {
  host: string;
  port: number;
}

export interface FeedState extends Partial<FeedSettings> {
  state: 'off' | 'connecting' | 'connected' | 'failing';
  /** Why nothing comes, in words. */
  trouble: string | null;
  /** Sentences with a wrong checksum, or none. */
  unreadable: number;
}

/** How long until a lost connection is tried again, ms. */
const AGAIN = 2000;
/** Silence after which a connection counts as lost, ms. */
const SILENT = 15_000;
/** A line longer than this is no NMEA sentence; what follows is read anew. */
const LONGEST = 4096;

const WORDS: Record<string, string> = {
  ECONNREFUSED: 'nothing listens there',
  ENOTFOUND: 'there is no such host',
  EAI_AGAIN: 'the host is not known here',
  EHOSTUNREACH: 'the host cannot be reached',
  ENETUNREACH: 'there is no way to that network',
  ETIMEDOUT: 'it does not answer',
};

/** The boat's network: keeps the connection up, and tells whoever listens where the boat is. */
export class Feed {
  private settings: FeedSettings | null = null;
  private socket: Socket | null = null;
  private timer: NodeJS.Timeout | null = null;
  private readonly listeners = new Set<(news: BoatNews & { at: number }) => void>();
  private shown: Omit<FeedState, keyof FeedSettings> = { state: 'off', trouble: null, unreadable: 0 };

  /** @param file where the settings are kept from one start to the next */
  constructor(private readonly file: string) {
    try {
      if (existsSync(file)) this.settings = JSON.parse(readFileSync(file, 'utf8')) as FeedSettings;
    } catch {
      // Settings that cannot be read are set anew by whoever misses them.
    }
    if (this.settings) this.dial();
  }

  get state(): FeedState {
    return { ...(this.settings ?? {}), ...this.shown };
  }

  /** Listens to another host, or to none. @param keep whether it is listened to again after a start */
  listenTo(settings: FeedSettings | null, keep = true): void {
    this.settings = settings;
    if (keep) writeFileSync(this.file, JSON.stringify(settings));
    this.hangUp();
    this.shown = { state: 'off', trouble: null, unreadable: 0 };
    if (settings) this.dial();
  }

  /** @returns ends the listening */
  onNews(listener: (news: BoatNews & { at: number }) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  stop(): void {
    this.hangUp();
    this.listeners.clear();
  }

  private hangUp(): void {
    if (this.timer) clearTimeout(this.timer);
    this.socket
      ?.removeAllListeners()
      .on('error', () => undefined)
      .destroy();
    this.socket = null;
  }

  private dial(): void {
    const { host, port } = this.settings!;
    if (this.shown.state === 'off') this.shown.state = 'connecting';
    const nmea = new LiveNmea();
    let rest = '';
    const socket = (this.socket = connect({ host, port }));
    socket.setEncoding('latin1').setTimeout(SILENT);
    socket.on('connect', () => (this.shown = { ...this.shown, state: 'connected', trouble: null }));
    socket.on('data', (text: string) => {
      const lines = (rest + text).split(/\r\n|\n|\r/);
      rest = lines.pop()!;
      if (rest.length > LONGEST) rest = '';
      const at = Date.now();
      for (const line of lines) {
        if (line.trim() === '') continue;
        const sentence = readSentence(line);
        if (typeof sentence === 'string') {
          this.shown.unreadable++;
          continue;
        }
        const news = nmea.take(sentence, at);
        if (news) this.listeners.forEach((listener) => listener({ ...news, at }));
      }
    });
    const lost = (trouble: string): void => {
      this.hangUp();
      this.shown = { ...this.shown, state: 'failing', trouble };
      this.timer = setTimeout(() => this.dial(), AGAIN);
    };
    socket.on('timeout', () => lost('nothing has come for a while'));
    socket.on('error', (error: NodeJS.ErrnoException) => lost(WORDS[error.code ?? ''] ?? error.message));
    socket.on('close', () => lost('the other side hung up'));
  }
}

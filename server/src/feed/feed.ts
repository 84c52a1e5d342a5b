import { existsSync, readFileSync } from 'node:fs';
import { LiveNmea, readEcho, readSentence, type BoatNews } from '@restless-shoal/core/formats';
import { writeWhole } from '../files';
import { LineClient, type LineState } from './line-client';

/** Where the boat's network speaks NMEA 0183 over TCP, and where a gateway sends the sonar's echoes, if one does. */
export interface FeedSettings {
  host: string;
  port: number;
  echoPort?: number | null;
}

export interface FeedState extends Partial<FeedSettings>, LineState {
  /** Sentences with a wrong checksum, or none. */
  unreadable: number;
  echoes: LineState & {
    /** Lines that could not be read, and why the last could not. */
    unreadable: number;
    why: string | null;
  };
}

/** A line longer than this is no NMEA sentence. */
const LONGEST_SENTENCE = 4096;
/** And longer than this no line of an echo stream. */
const LONGEST_ECHO = 400_000;

type OnNews = (news: BoatNews & { at: number }) => void;
/** @param line as it came, for whoever passes it on */
type OnEcho = (line: string, at: number) => void;

/** The boat's network: keeps the connections up, and tells whoever listens where the boat is and what its sonar hears. */
export class Feed {
  private settings: FeedSettings | null = null;
  private readonly listeners = new Set<OnNews>();
  private readonly echoListeners = new Set<OnEcho>();
  private nmea = new LiveNmea();
  private unreadable = 0;
  private unreadEchoes: { unreadable: number; why: string | null } = { unreadable: 0, why: null };
  private readonly sentences = new LineClient(
    LONGEST_SENTENCE,
    (line) => this.takeSentence(line),
    () => (this.nmea = new LiveNmea()),
  );
  private readonly echoes = new LineClient(LONGEST_ECHO, (line) => this.takeEcho(line));

  /** @param file where the settings are kept from one start to the next */
  constructor(private readonly file: string) {
    try {
      if (existsSync(file)) this.settings = JSON.parse(readFileSync(file, 'utf8')) as FeedSettings;
    } catch {
      // Settings that cannot be read are set anew by whoever misses them.
    }
    this.dial();
  }

  get state(): FeedState {
    return {
      ...(this.settings ?? {}),
      ...this.sentences.state,
      unreadable: this.unreadable,
      echoes: { ...this.echoes.state, ...this.unreadEchoes },
    };
  }

  /** Listens to another host, or to none. @param keep whether it is listened to again after a start */
  listenTo(settings: FeedSettings | null, keep = true): void {
    this.settings = settings;
    if (keep) writeWhole(this.file, JSON.stringify(settings));
    this.unreadable = 0;
    this.unreadEchoes = { unreadable: 0, why: null };
    this.dial();
  }

  /** @returns ends the listening */
  onNews(listener: OnNews): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** @returns ends the listening */
  onEcho(listener: OnEcho): () => void {
    this.echoListeners.add(listener);
    return () => this.echoListeners.delete(listener);
  }

  stop(): void {
    this.sentences.hangUp();
    this.echoes.hangUp();
    this.listeners.clear();
    this.echoListeners.clear();
  }

  private dial(): void {
    this.sentences.listenTo(this.settings);
    const { host, echoPort } = this.settings ?? {};
    this.echoes.listenTo(host && echoPort ? { host, port: echoPort } : null);
  }

  private takeSentence(line: string): void {
    const sentence = readSentence(line);
    if (typeof sentence === 'string') {
      this.unreadable++;
      return;
    }
    const at = Date.now();
    const news = this.nmea.take(sentence, at);
    if (news) this.listeners.forEach((listener) => listener({ ...news, at }));
  }

  private takeEcho(line: string): void {
    // Nobody looks: nothing is read.
    if (!this.echoListeners.size) return;
    const echo = readEcho(line);
    if (typeof echo === 'string') {
      this.unreadEchoes = { unreadable: this.unreadEchoes.unreadable + 1, why: echo };
      return;
    }
    const at = Date.now();
    this.echoListeners.forEach((listener) => listener(line, at));
  }
}

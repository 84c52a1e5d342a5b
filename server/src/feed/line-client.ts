import { connect, type Socket } from 'node:net';

/** Where a stream of lines comes from. */
export interface Address {
  host: string;
  port: number;
}

export interface LineState {
  state: 'off' | 'connecting' | 'connected' | 'failing';
  /** Why nothing comes, in words. */
  trouble: string | null;
}

/** How long until a lost connection is tried again, ms. */
const AGAIN = 2000;
/** Silence after which a connection counts as lost, ms. */
const SILENT = 15_000;

const WORDS: Record<string, string> = {
  ECONNREFUSED: 'nothing listens there',
  ENOTFOUND: 'there is no such host',
  EAI_AGAIN: 'the host is not known here',
  EHOSTUNREACH: 'the host cannot be reached',
  ENETUNREACH: 'there is no way to that network',
  ETIMEDOUT: 'it does not answer',
};

/** A TCP connection that sends lines, dialled again whenever it is lost. */
export class LineClient {
  private socket: Socket | null = null;
  private timer: NodeJS.Timeout | null = null;
  private now: LineState = { state: 'off', trouble: null };

  /**
   * @param longest a line longer than this is none; what follows is read anew
   * @param onLine called with each line that is not empty @param onConnected called before the first line of a connection
   */
  constructor(
    private readonly longest: number,
    private readonly onLine: (line: string) => void,
    private readonly onConnected: () => void = () => undefined,
  ) {}

  get state(): LineState {
    return this.now;
  }

  /** Listens to another address, or to none. */
  listenTo(address: Address | null): void {
    this.hangUp();
    this.now = { state: address ? 'connecting' : 'off', trouble: null };
    if (address) this.dial(address);
  }

  hangUp(): void {
    if (this.timer) clearTimeout(this.timer);
    this.socket
      ?.removeAllListeners()
      .on('error', () => undefined)
      .destroy();
    this.socket = null;
  }

  private dial(address: Address): void {
    let rest = '';
    const socket = (this.socket = connect(address));
    socket.setEncoding('latin1').setTimeout(SILENT);
    socket.on('connect', () => {
      this.now = { state: 'connected', trouble: null };
      this.onConnected();
    });
    socket.on('data', (text: string) => {
      const lines = (rest + text).split(/\r\n|\n|\r/);
      rest = lines.pop()!;
      if (rest.length > this.longest) rest = '';
      for (const line of lines) if (line.trim() !== '') this.onLine(line);
    });
    const lost = (trouble: string): void => {
      this.hangUp();
      this.now = { state: 'failing', trouble };
      this.timer = setTimeout(() => this.dial(address), AGAIN);
    };
    socket.on('timeout', () => lost('nothing has come for a while'));
    socket.on('error', (error: NodeJS.ErrnoException) => lost(WORDS[error.code ?? ''] ?? error.message));
    socket.on('close', () => lost('the other side hung up'));
  }
}

import { createServer, type Server, type Socket } from 'node:net';

/** More than this waiting for a listener that does not read, bytes, and it misses lines. */
const BEHIND = 1_000_000;

/** A socket on this machine that sends lines to whoever listens. */
export class LineServer {
  private server: Server | null = null;
  private readonly sockets = new Set<Socket>();

  /** @returns the port */
  async start(): Promise<number> {
    const server = (this.server = createServer((socket) => {
      this.sockets.add(socket);
      socket.on('error', () => undefined).on('close', () => this.sockets.delete(socket));
    }));
    await new Promise<void>((done, failed) => server.once('error', failed).listen(0, '127.0.0.1', done));
    return (server.address() as { port: number }).port;
  }

  get heard(): boolean {
    return this.sockets.size > 0;
  }

  send(lines: string[]): void {
    const text = `${lines.join('\r\n')}\r\n`;
    for (const socket of this.sockets) if (socket.writableLength < BEHIND) socket.write(text);
  }

  stop(): void {
    this.sockets.forEach((socket) => socket.destroy());
    this.server?.close();
  }
}

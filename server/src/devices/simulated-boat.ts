import { createServer, type Server, type Socket } from 'node:net';
import { destination, type LatLon } from '@restless-shoal/core/geo';
import { nmeaSentence } from '@restless-shoal/core/formats';

/** How a simulated boat goes, and what its sounder would say. */
export interface Voyage {
  /** Where it is after so many metres. */
  at: (travelled: number) => { position: LatLon; course: number };
  /** m/s */
  speed: number;
  /** Depth of the water there, m; null where none is known. */
  depthAt: (position: LatLon) => number | null;
}

/** Positions a second. */
const RATE = 5;

const two = (n: number): string => String(n).padStart(2, '0');
/** Degrees as an NMEA field: ddmm.mmmmm and its hemisphere. */
function degrees(value: number, [plus, minus]: [string, string], width: number): string {
  const size = Math.abs(value);
  const whole = Math.floor(size + 1e-9 / 60);
  const minutes = Math.max(0, (size - whole) * 60).toFixed(5);
  return minutes === '60.00000'
    ? `${String(whole + 1).padStart(width, '0')}00.00000,${value < 0 ? minus : plus}`
    : `${String(whole).padStart(width, '0')}${minutes.padStart(8, '0')},${value < 0 ? minus : plus}`;
}

/** The sentences of one moment, as a boat's network sends them. */
export function sentencesOf(now: Date, position: LatLon, course: number, speed: number, depth: number | null): string[] {
  const clock = `${two(now.getUTCHours())}${two(now.getUTCMinutes())}${two(now.getUTCSeconds())}.${String(now.getUTCMilliseconds()).padStart(3, '0').slice(0, 2)}`;
  const day = `${two(now.getUTCDate())}${two(now.getUTCMonth() + 1)}${two(now.getUTCFullYear() % 100)}`;
  const place = `${degrees(position.latitude, ['N', 'S'], 2)},${degrees(position.longitude, ['E', 'W'], 3)}`;
  const knots = speed / 0.514444;
  return [
    `GPRMC,${clock},A,${place},${knots.toFixed(3)},${course.toFixed(2)},${day},,,A`,
    `GPHDT,${course.toFixed(2)},T`,
    ...(depth === null ? [] : [`SDDPT,${Math.max(0, depth - 0.4).toFixed(2)},0.40,`]),
  ].map(nmeaSentence);
}

/** A boat that goes its way and sends what its instruments would, over a real socket on this machine. */
export class SimulatedBoat {
  private server: Server | null = null;
  private readonly sockets = new Set<Socket>();
  private timer: NodeJS.Timeout | null = null;
  private began = 0;

  constructor(private readonly voyage: Voyage) {}

  /** Starts to go and to send. @returns the port */
  async start(): Promise<number> {
    const server = (this.server = createServer((socket) => {
      this.sockets.add(socket);
      socket.on('error', () => undefined).on('close', () => this.sockets.delete(socket));
    }));
    await new Promise<void>((done, failed) => server.once('error', failed).listen(0, '127.0.0.1', done));
    this.began = Date.now();
    this.timer = setInterval(() => {
      const { position, course, depth } = this.truth();
      const lines = sentencesOf(new Date(), position, course, this.voyage.speed, depth).join('\r\n');
      for (const socket of this.sockets) socket.write(`${lines}\r\n`);
    }, 1000 / RATE);
    return (server.address() as { port: number }).port;
  }

  /** Where it really is at a time, ms. */
  truth(at = Date.now()): { position: LatLon; course: number; depth: number | null } {
    const { position, course } = this.voyage.at((this.voyage.speed * Math.max(0, at - this.began)) / 1000);
    return { position, course, depth: this.voyage.depthAt(position) };
  }

  stop(): void {
    if (this.timer) clearInterval(this.timer);
    this.sockets.forEach((socket) => socket.destroy());
    this.server?.close();
  }
}

/** Straight on from a place. */
export const straightOn =
  (from: LatLon, course: number): Voyage['at'] =>
  (travelled) => ({ position: destination(from, course, travelled), course });

import { destination, type LatLon, type Point } from '@restless-shoal/core/geo';
import { nmeaSentence } from '@restless-shoal/core/formats';
import { LineServer } from './line-server';
import { PINGS, type SimulatedSonar } from './simulated-sonar';

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

/** A boat that goes its way and sends what its instruments and its sonar would, over real sockets on this machine. */
export class SimulatedBoat {
  private readonly sentences = new LineServer();
  private readonly echoes = new LineServer();
  private timers: NodeJS.Timeout[] = [];
  private began = 0;

  /** @param sonar what it hears, and where a position lies in its plane; null where there is no chart to hear of */
  constructor(
    private readonly voyage: Voyage,
    private readonly sonar: { hears: SimulatedSonar; toMetric: (position: LatLon) => Point } | null,
  ) {}

  /** Starts to go and to send. @returns the ports of the sentences and of the echoes */
  async start(): Promise<{ port: number; echoPort: number | null }> {
    const port = await this.sentences.start();
    const echoPort = this.sonar ? await this.echoes.start() : null;
    this.began = Date.now();
    this.timers.push(
      setInterval(() => {
        const { position, course, depth } = this.truth();
        this.sentences.send(sentencesOf(new Date(), position, course, this.voyage.speed, depth));
      }, 1000 / RATE),
    );
    const { sonar } = this;
    if (sonar)
      this.timers.push(
        setInterval(() => {
          if (!this.echoes.heard) return;
          const { position, course } = this.truth();
          const [x, y] = sonar.toMetric(position);
          // The course is a true one, the plane has a north of its own.
          const [east, north] = sonar.toMetric(destination(position, course, 1));
          const heading = (Math.atan2(east - x, north - y) * 180) / Math.PI;
          this.echoes.send(sonar.hears.next({ x, y, heading }, (Date.now() - this.began) / 1000));
        }, 1000 / PINGS),
      );
    return { port, echoPort };
  }

  /** Where it really is at a time, ms. */
  truth(at = Date.now()): { position: LatLon; course: number; depth: number | null } {
    const { position, course } = this.voyage.at((this.voyage.speed * Math.max(0, at - this.began)) / 1000);
    return { position, course, depth: this.voyage.depthAt(position) };
  }

  stop(): void {
    this.timers.forEach(clearInterval);
    this.sentences.stop();
    this.echoes.stop();
  }
}

/** Straight on from a place. */
export const straightOn =
  (from: LatLon, course: number): Voyage['at'] =>
  (travelled) => ({ position: destination(from, course, travelled), course });

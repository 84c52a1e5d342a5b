import { degreesIn, depthOf, KNOT, numberIn, scaled, type Sentence } from './nmea';

/** What the boat's network last said, each part null until it did. SI units; degrees true; depth below the surface where the sounder knows its own. */
export interface BoatNews {
  latitude: number;
  longitude: number;
  course: number | null;
  speed: number | null;
  heading: number | null;
  depth: number | null;
  temperature: number | null;
  windFrom: number | null;
  windSpeed: number | null;
}

/** How long a depth, temperature or wind stands when no other comes, ms. */
const STALE = 10_000;
/** How long the first positions wait for a sounder to say its first depth, ms: fixes without one are lost to the chart. */
const WAITING = 2000;

/** The state of a boat from its sentences as they come. */
export class LiveNmea {
  private readonly last = new Map<keyof BoatNews, { value: number; at: number }>();

  private set(name: keyof BoatNews, value: number | null, at: number): void {
    if (value !== null) this.last.set(name, { value, at });
  }

  private get(name: keyof BoatNews, now: number): number | null {
    const known = this.last.get(name);
    return known && now - known.at <= STALE ? known.value : null;
  }

  /**
   * Takes a sentence in.
   * @param now when it came, ms
   * @returns the boat when the sentence was a position, else null; at first also while a depth may still come
   */
  take({ type, fields: f }: Sentence, now: number): BoatNews | null {
    switch (type) {
      case 'RMC':
        if (f[2] === 'V') return null;
        this.set('speed', scaled(f[7], KNOT), now);
        this.set('course', numberIn(f[8]), now);
        this.rmcAt = now;
        return this.place(degreesIn(f[3], f[4]), degreesIn(f[5], f[6]), now);
      case 'GGA':
        return f[6] === '0' || this.saysRmc(now) ? null : this.place(degreesIn(f[2], f[3]), degreesIn(f[4], f[5]), now);
      case 'GLL':
        return f[6] === 'V' || this.saysRmc(now) ? null : this.place(degreesIn(f[1], f[2]), degreesIn(f[3], f[4]), now);
      case 'VTG':
        this.set('course', numberIn(f[1]), now);
        this.set('speed', scaled(f[5], KNOT), now);
        return null;
      case 'HDT':
        this.set('heading', numberIn(f[1]), now);
        return null;
      case 'MTW':
        this.set('temperature', numberIn(f[1]), now);
        return null;
      case 'MWD':
        this.set('windFrom', numberIn(f[1]), now);
        this.set('windSpeed', numberIn(f[7]) ?? scaled(f[5], KNOT), now);
        return null;
      case 'DPT':
      case 'DBS':
      case 'DBT': {
        const depth = depthOf(type, f);
        if (depth !== null && depth > 0) this.set('depth', depth, now);
        return null;
      }
      default:
        return null;
    }
  }

  private rmcAt = -Infinity;
  /** Several sentences say the same position: the one with course and speed is enough. */
  private saysRmc(now: number): boolean {
    return now - this.rmcAt < STALE;
  }

  private firstPlaceAt: number | null = null;
  private place(latitude: number | null, longitude: number | null, now: number): BoatNews | null {
    if (latitude === null || longitude === null) return null;
    this.firstPlaceAt ??= now;
    if (!this.last.has('depth') && now - this.firstPlaceAt < WAITING) return null;
    return {
      latitude,
      longitude,
      course: this.get('course', now),
      speed: this.get('speed', now),
      heading: this.get('heading', now),
      depth: this.get('depth', now),
      temperature: this.get('temperature', now),
      windFrom: this.get('windFrom', now),
      windSpeed: this.get('windSpeed', now),
    };
  }
}

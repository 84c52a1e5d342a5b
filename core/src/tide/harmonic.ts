import { constituentNamed, tidalAngles, type Constituent } from './constituents';

/** What a table says of one constituent at a place. */
export interface HarmonicConstant {
  name: string;
  /** m, or m/s of a stream. */
  amplitude: number;
  /** Lag of its high water behind its argument at Greenwich (g), degrees. */
  phase: number;
}

const RAD = Math.PI / 180;
/** The moon's node turns by 19° a year: f and u of a day hold for it, ms. */
const NODE_HOLDS = 86_400_000;

/**
 * The tide of a place by the harmonic method: Σ f·H·cos(V + u − g), about a mean level.
 * Source: Schureman 1958; Pugh 1987, Tides, Surges and Mean Sea-Level.
 */
export class Harmonics {
  private readonly parts: { constituent: Constituent; amplitude: number; phase: number }[] = [];
  /** Names that no constituent has: they are left out. */
  readonly unknown: string[] = [];
  private day: { of: number; parts: { across: number; up: number; speed: number }[]; at: number } | null = null;

  /** @param mean level about which it moves, m (Z0) */
  constructor(
    constants: readonly HarmonicConstant[],
    readonly mean = 0,
  ) {
    for (const { name, amplitude, phase } of constants) {
      const constituent = constituentNamed(name);
      if (constituent) this.parts.push({ constituent, amplitude, phase });
      else this.unknown.push(name);
    }
  }

  get constituents(): string[] {
    return this.parts.map((p) => p.constituent.name);
  }

  /** The largest it can be from its mean, nodes aside. */
  get most(): number {
    return this.parts.reduce((sum, p) => sum + p.amplitude, 0);
  }

  private partsOf(at: number): NonNullable<typeof this.day> {
    const of = Math.floor(at / NODE_HOLDS);
    if (this.day?.of !== of) {
      // From the middle of the day on, each goes at its speed.
      const middle = (of + 0.5) * NODE_HOLDS;
      const angles = tidalAngles(middle);
      const parts = this.parts.map(({ constituent, amplitude, phase }) => {
        const { argument, f } = constituent.at(angles);
        const angle = (argument - phase) * RAD;
        return { across: f * amplitude * Math.cos(angle), up: f * amplitude * Math.sin(angle), speed: constituent.speed * RAD };
      });
      this.day = { of, parts, at: middle };
    }
    return this.day;
  }

  /** m above the datum of the mean level. @param at ms */
  height(at: number): number {
    const { parts, at: middle } = this.partsOf(at);
    const hours = (at - middle) / 3_600_000;
    let sum = this.mean;
    for (const { across, up, speed } of parts) sum += across * Math.cos(speed * hours) - up * Math.sin(speed * hours);
    return sum;
  }

  /** How fast it rises, m an hour. */
  rate(at: number): number {
    const { parts, at: middle } = this.partsOf(at);
    const hours = (at - middle) / 3_600_000;
    let sum = 0;
    for (const { across, up, speed } of parts) sum -= speed * (across * Math.sin(speed * hours) + up * Math.cos(speed * hours));
    return sum;
  }
}

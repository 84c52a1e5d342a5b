import { Random } from './random';

const DAY = 86_400_000;

/** The water and the weather of one day, as they truly are. */
export interface Weather {
  /** Surface temperature at noon, °C. */
  surface: number;
  /** Depth of the thermocline, m; null while the water is mixed. */
  thermocline: number | null;
  /** Temperature of the deep layer, °C. */
  deep: number;
  secchi: number;
  windFrom: number;
  windSpeed: number;
  cloud: number;
  pressure: number;
  level: number;
  /** Oxygen of the deep layer, mg/l. */
  deepOxygen: number;
}

/** What a water's own nature makes of the weather. */
export interface WaterKind {
  /** Added to the clarity of the demo's reservoir, m. */
  clearer: number;
  /** Whether it stratifies at all, and how much deeper than the reservoir, m. */
  layers: boolean;
  deeper: number;
  /** Oxygen that the deep layer keeps at the end of summer, mg/l. */
  keepsOxygen: number;
  /** Added to its surface temperature, °C. */
  warmer: number;
  /** Half of its swing through the year, °C; 9.6 for a reservoir. */
  swing?: number;
}

export const RESERVOIR: WaterKind = { clearer: 0, layers: true, deeper: 0, keepsOxygen: 0.3, warmer: 0 };

/** The weather and the water of a run of years, day by day from a seed. */
export class Climate {
  private readonly days: Weather[] = [];
  constructor(
    seed: number,
    private readonly first: number,
    last: number,
    private readonly kind: WaterKind = RESERVOIR,
  ) {
    const random = new Random(seed * 31 + 7);
    let [warmth, murk, turn, blow, pressure] = [0, 0, 0, 0, 0];
    let yearly = 0;
    for (let t = first; t <= last; t += DAY) {
      const date = new Date(t);
      const day = (t - Date.UTC(date.getUTCFullYear(), 0, 1)) / DAY;
      if (day < 1) yearly = random.normal(0, 0.6);
      warmth = 0.9 * warmth + random.normal(0, 0.45);
      murk = 0.92 * murk + random.normal(0, 0.07);
      turn = 0.75 * turn + random.normal(0, 35);
      blow = 0.6 * blow + random.normal(0, 1.6);
      pressure = 0.8 * pressure + random.normal(0, 4);
      this.days.push(this.weather(day, { warmth: warmth + yearly, murk, turn, blow, pressure }, random));
    }
  }

  private weather(
    day: number,
    state: { warmth: number; murk: number; turn: number; blow: number; pressure: number },
    random: Random,
  ): Weather {
    const season = Math.cos((2 * Math.PI * (day - 207)) / 365.25);
    const { clearer, layers, deeper, keepsOxygen, warmer, swing = 9.6 } = this.kind;
    const surface = Math.max(1.5, 11.6 + warmer + swing * season + state.warmth);
    const deep = Math.min(surface, 5.2 + 2.6 * Math.min(1, Math.max(0, (day - 110) / 160)));
    const layered = layers && surface - deep > 4.2 && day > 128 && day < 275;
    return {
      surface,
      deep,
      thermocline: layered
        ? Math.max(3.5, 4.4 + deeper + 0.032 * (day - 130) + 0.00018 * Math.max(0, day - 200) ** 2 + 0.2 * state.blow * 0.3)
        : null,
      secchi: Math.max(0.7, 2.3 + clearer - 0.9 * Math.exp(-(((day - 215) / 45) ** 2)) + state.murk),
      windFrom: (245 + state.turn + 3600) % 360,
      windSpeed: Math.max(0.3, 4.2 + state.blow),
      cloud: Math.min(1, Math.max(0, 0.5 + 0.3 * random.normal())),
      pressure: 1000 + state.pressure,
      level: -0.6 * Math.min(1, Math.max(0, (day - 150) / 120)),
      deepOxygen: layered ? Math.max(keepsOxygen, 8.5 - 0.11 * (day - 128)) : 9.5,
    };
  }

  on(t: number): Weather {
    return this.days[Math.min(this.days.length - 1, Math.max(0, Math.floor((t - this.first) / DAY)))];
  }

  /** True temperature at a depth. */
  static temperature(w: Weather, z: number): number {
    if (w.thermocline == null) return w.surface - Math.min(0.6, Math.max(0, w.surface - w.deep)) * Math.min(1, z / 15);
    return w.deep + (w.surface - w.deep) / (1 + Math.exp((z - w.thermocline) / 0.65));
  }

  /** True oxygen at a depth, mg/l. */
  static oxygen(w: Weather, z: number): number {
    const top = 14.2 - 0.26 * w.surface;
    if (w.thermocline == null) return top - 0.03 * z;
    return w.deepOxygen + (top - w.deepOxygen) / (1 + Math.exp((z - w.thermocline - 0.6) / 0.5));
  }
}

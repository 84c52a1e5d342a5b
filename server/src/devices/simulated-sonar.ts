import type { COMPANIONS } from '@restless-shoal/core/contract';
import { writeEcho } from '@restless-shoal/core/formats';
import { forwardPicture, sideScanPing, sounderPing, type Listening, type Scene, type SceneTarget } from '@restless-shoal/core/sonar';

/** What can hang or drift beside a boat and be taken for fish. */
export type Companion = (typeof COMPANIONS)[number];

/** Pings a second of the sounder and the side-scan; the forward-facing picture comes once for so many of them. */
export const PINGS = 15;
const FORWARD_EVERY = 3;
const FORWARD = { range: 30, sector: 20, rows: 46, samples: 150 };
const SIDE_RANGE = 30;
const TRANSDUCER = 0.4;
const BEAM = 20;

/** Ranges that a sounder can be set to, m: the first that holds the bottom with some below it. */
const RANGES = [6, 10, 16, 25, 40, 60, 100];

/** The transducer's place and direction in the water's plane. */
export interface SonarPlace {
  x: number;
  y: number;
  heading: number;
}

/** What goes along with the boat at a moment: a lure moved up and down, a weight on its wire, another boat's wash under the surface now and then. */
function companionsAt(which: readonly Companion[], seconds: number, { x, y }: SonarPlace): SceneTarget[] {
  const out: SceneTarget[] = [];
  const hang = (id: Companion, depth: number, strength: number): void =>
    void out.push({ id, kind: id, x: x + 0.1, y, depth, radius: 0, half: 0, strength });
  if (which.includes('lure')) hang('lure', 3.6 + 0.5 * Math.sin((2 * Math.PI * seconds) / 5), -34);
  if (which.includes('weight')) hang('weight', 5.6, -30);
  // Half of each minute.
  if (which.includes('wash') && seconds % 60 < 30)
    out.push({ id: 'wash', kind: 'wash', x, y, depth: 0.9, radius: 0.5, half: 0.4, strength: -26 });
  return out;
}

/** The sonar of a simulated boat: line by line what its views hear of a scene. */
export class SimulatedSonar {
  private pings = 0;

  constructor(
    private readonly scene: Scene,
    private readonly companions: readonly Companion[],
    private readonly random: () => number = Math.random,
  ) {}

  /** The lines of the next ping. @param seconds since the boat began */
  next(place: SonarPlace, seconds: number): string[] {
    const { scene, random } = this;
    const near = companionsAt(this.companions, seconds, place);
    const here: Scene = { ...scene, near: (x, y, reach) => [...scene.near(x, y, reach), ...near] };
    const at = { ...place, depth: TRANSDUCER };
    const bottom = scene.depthAt(place.x, place.y);
    const range = RANGES.find((r) => r > (bottom || 0) * 1.25) ?? RANGES.at(-1)!;
    const how = (more: Partial<Listening>): Listening => ({
      beam: BEAM,
      range,
      samples: 400,
      pulse: 0.0001,
      soundSpeed: 1470,
      gain: 0,
      random,
      ...more,
    });
    const said = { transducerDepth: TRANSDUCER };
    const lines = [writeEcho({ view: 'sounder', ...said, range, beam: BEAM, levels: sounderPing(here, at, how({})) })];
    // Hung under the boat, things are in the sounder's cone and the forward picture's foot, and hardly to the sides.
    lines.push(
      writeEcho({
        view: 'side-scan',
        ...said,
        range: SIDE_RANGE,
        ...sideScanPing(scene, at, how({ range: SIDE_RANGE, samples: 300, beam: 3 })),
      }),
    );
    if (this.pings++ % FORWARD_EVERY === 0)
      lines.push(
        writeEcho({
          view: 'forward-facing',
          ...said,
          range: FORWARD.range,
          rows: FORWARD.rows,
          sector: FORWARD.sector,
          bearing: 0,
          levels: forwardPicture(here, at, how({ range: FORWARD.range, samples: FORWARD.samples }), FORWARD.sector, FORWARD.rows),
        }),
      );
    return lines;
  }
}

import { makeLogbook, REACH, SOUND, worldName, type DemoOptions } from '@restless-shoal/demo';
import type { DemoName } from '@restless-shoal/core/contract';

const MADE: Record<DemoName, DemoOptions> = {
  lake: { seed: 8 },
  sound: { seed: 21, trips: 34, scenario: SOUND },
  river: { seed: 5, trips: 18, scenario: REACH },
};

/** Name of a demo water. */
export const demoName = (which: DemoName): string => worldName(MADE[which].seed, MADE[which].scenario?.shape);

/** A file of the exchange formats. */
export interface DemoFile {
  name: string;
  text: string;
}

/** A demo water and its log. Takes some seconds: a server makes it in a thread of its own. */
export const demoFiles = (which: DemoName): DemoFile[] => [...makeLogbook(MADE[which]).folder].map(([name, text]) => ({ name, text }));

import { makeLogbook, worldName } from '@restless-shoal/demo';

const DEMO_SEED = 8;

/** Name of the demo water. */
export const DEMO_NAME = worldName(DEMO_SEED);

/** The demo water and its log, as files of the exchange formats. */
export const demoFiles = (): { name: string; text: string }[] =>
  [...makeLogbook({ seed: DEMO_SEED }).folder].map(([name, text]) => ({ name, text }));

import type { SeenTarget } from '../../src/logbook';

/** A zander that was marked and never confirmed, of which no more was said. */
export const seenTarget = (more: Partial<SeenTarget> = {}): SeenTarget => ({
  target: 't',
  kind: 'fish',
  species: 'zander',
  confidence: 0.8,
  confirmed: 'none',
  size: null,
  count: 1,
  top: null,
  bottom: null,
  at: 0,
  view: null,
  off: null,
  named: null,
  stated: null,
  alsoNamed: [],
  form: null,
  core: null,
  ...more,
});

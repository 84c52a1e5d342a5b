import { shared } from '../state/shared';

/** Whether the server answers, and from when what is shown is if it does not. */
export interface Reach {
  server: boolean;
  /** When the oldest of what the device gave instead was kept, ms. */
  asOf: number | null;
}

const reach = shared<Reach>({ server: true, asOf: null });

function show(next: Reach): void {
  const { server, asOf } = reach.now();
  if (next.server !== server || next.asOf !== asOf) reach.set(next);
}

/** The server has answered. */
export const reached = (): void => show({ server: true, asOf: null });
/** The device answered in its place, or nobody. @param keptAt when the answer was kept, ms */
export const missed = (keptAt: number | null = null): void => {
  const { asOf } = reach.now();
  show({ server: false, asOf: keptAt === null ? asOf : Math.min(keptAt, asOf ?? keptAt) });
};

export const useReach = reach.use;

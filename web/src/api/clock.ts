/** A difference between the clocks of device and server that is not only the way between them, ms. */
const NOTABLE = 2000;

let skew = 0;
let last = 0;

/** Learns from an answer what time it is at the server. @param server its clock, ms @param asked @param answered by this device's clock */
export function noteServerTime(server: number, asked: number, answered: number): void {
  const off = server - (asked + answered) / 2;
  skew = Math.abs(off) > NOTABLE + (answered - asked) / 2 ? off : 0;
}

/**
 * The time of what is logged now, ms: this device's clock, set right by the server's where the two disagree, and
 * never before what was logged last, so that the order of marks survives a clock that is put back.
 */
export function deckNow(clock: number = Date.now()): number {
  const now = Math.round(clock + skew);
  // Put back by a little while it runs; more than that is a clock that has been set right.
  last = now <= last && last - now < 600_000 ? last + 1 : now;
  return last;
}

/** How far what swims may have gone, m: 3 m a minute, 40 m at most. A judgement. @param minutes since it was seen */
export const mayHaveMoved = (minutes: number): number => Math.min(40, 3 * Math.max(0, minutes));

/** How far a school may have moved off after a catch, m: some tens of metres, a little at once. A judgement. @param minutes since the catch */
export const schoolMayHaveMoved = (minutes: number): number => Math.min(60, 10 + 5 * Math.max(0, minutes));

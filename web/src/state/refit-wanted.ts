/** Fits whose species, or strategies, were just told otherwise by hand: made anew when the Forecast is next in sight. */
const wanted = new Set<string>();
const keyOf = (water: string, species: string): string => `${water} ${species}`;

export const wantRefit = (water: string, species: string): void => void wanted.add(keyOf(water, species));

/** Whether one is wanted; asked for once, it no longer is. */
export const takeRefitWanted = (water: string, species: string): boolean => wanted.delete(keyOf(water, species));

/** Readings of a column: depth m, °C, oxygen mg/l where it was measured. */
type Readings = [depth: number, celsius: number, oxygen?: number][];

/** Waters that the cases below are of, each measured from the surface as far as it is listed. */
export const COLUMNS = {
  /** A fertile lake in July: no oxygen below the thermocline. */
  fertile: [
    [0, 22, 9],
    [3, 22, 9],
    [4, 21.5, 8.8],
    [5, 20, 8],
    [6, 15, 5],
    [7, 11, 2],
    [8, 9, 0.8],
    [12, 8, 0.3],
    [20, 7.5, 0.1],
  ],
  /** A deep clear lake in August: oxygen to the bottom. */
  clear: [
    [0, 18, 9.4],
    [4, 18, 9.4],
    [8, 17.5, 9.6],
    [12, 12, 11],
    [16, 8, 11.5],
    [25, 6, 11],
    [40, 5, 10],
  ],
  /** The same in its first metres only. */
  clearShort: [
    [0, 22],
    [2, 22],
    [4, 21.8],
    [5, 21.5],
  ],
  /** A shallower clear lake, its thermocline at 7 m, oxygen good below. */
  clearShallow: [
    [0, 23, 8.6],
    [5, 22.8, 8.6],
    [6, 21, 9],
    [7, 17, 9.8],
    [8, 14, 9.9],
    [10, 12.5, 9.5],
    [14, 12, 8.5],
    [18, 12, 7.8],
  ],
  autumn: [
    [0, 9, 10.8],
    [10, 9, 10.7],
    [20, 8.9, 10.6],
  ],
  ice: [
    [0, 0.3, 13],
    [1, 2, 12.5],
    [3, 3, 12],
    [8, 3.5, 8],
    [12, 3.9, 5],
    [15, 4, 3],
  ],
  pond: [
    [0, 29, 7.6],
    [1, 28.5, 7.4],
    [2, 28, 6.8],
    [4, 27, 5],
  ],
  /** Least oxygen half-way down, at 7 m. */
  midMinimum: [
    [0, 24, 8.5],
    [4, 22, 8.5],
    [6, 18, 6.8],
    [7, 14, 4],
    [8, 11, 5.2],
    [10, 9, 8],
    [25, 7, 7.5],
  ],
  warmPike: [
    [0, 27, 8],
    [3, 27, 8],
    [5, 24, 7],
    [7, 20, 5],
    [9, 15, 3.5],
    [12, 12, 1],
  ],
  hotReservoir: [
    [0, 31, 7.5],
    [4, 30, 7],
    [7, 26, 5],
    [9, 22, 2.5],
    [11, 18, 0.5],
    [16, 16, 0.1],
  ],
  hotMixed: [
    [0, 31, 6.2],
    [4, 31, 6],
    [8, 31, 6],
  ],
  warmMixed: [
    [0, 20, 9],
    [5, 20, 9],
    [10, 20, 9],
  ],
  estuary: [
    [0, 20, 7.6],
    [5, 20, 7.5],
    [10, 20, 7.4],
  ],
  sound: [
    [0, 19, 7.8],
    [6, 18.5, 7.8],
    [10, 14, 8.2],
    [15, 11, 8.5],
    [30, 10, 8],
  ],
  /** A calm day's film above the real layer at 6–7 m. */
  film: [
    [0, 25, 8.8],
    [0.5, 22, 9],
    [1, 20, 9],
    [5.5, 19.5, 8.8],
    [6.5, 14, 6],
    [7.5, 10, 3.6],
    [12, 8, 1.5],
  ],
  tropics: [
    [0, 27, 7.4],
    [15, 26.5, 7],
    [30, 25.2, 5],
    [45, 24, 1],
    [60, 23.8, 0.3],
  ],
  trout: [
    [0, 21, 8.6],
    [4, 21, 8.6],
    [6, 17, 9],
    [9, 12, 9.5],
    [14, 9, 8],
    [20, 8, 6.5],
  ],
  spring: [
    [0, 8, 11.5],
    [5, 7.6, 11.5],
    [15, 7, 11.3],
  ],
  late: [
    [0, 12.2, 10.3],
    [10, 11.8, 10.2],
    [20, 11.5, 10],
  ],
  cold: [
    [0, 3, 13],
    [5, 3.4, 12.8],
    [12, 3.9, 12],
  ],
} satisfies Record<string, Readings>;

/** Where a species should be, m: the window's edges within these, or nothing at all. */
export interface DepthCase {
  species: string;
  column: keyof typeof COLUMNS;
  secchi: number;
  /** Height of the sun, degrees. */
  sun: number;
  /** Deepest water where the profile does not reach it, m. */
  maxDepth?: number;
  spawning?: boolean;
  top?: [number, number];
  bottom?: [number, number];
  empty?: boolean;
  /** Why, and who says so: most are what the limits in the species' sources come to in that water. */
  why: string;
}

const NOON = 50;
const NIGHT = -20;

/** Written before the code that meets them. */
export const DEPTH_CASES: DepthCase[] = [
  // Fertile water: the oxygen is the floor.
  { species: 'zander', column: 'fertile', secchi: 1.5, sun: NOON, bottom: [5, 7], why: 'oxygen of 4 mg/l ends at 6.3 m (Lappalainen et al. 2003)' },
  { species: 'zander', column: 'fertile', secchi: 1.5, sun: NIGHT, top: [0, 0], bottom: [5, 7], why: 'shy of light by day alone (Ali, Ryder & Anctil 1977)' },
  { species: 'perch', column: 'fertile', secchi: 1.5, sun: NOON, top: [0, 0], bottom: [5, 7], why: 'oxygen of 3.5 mg/l ends at 6.5 m (Thorpe 1977)' },
  { species: 'pike', column: 'fertile', secchi: 1.5, sun: NOON, top: [0, 1], bottom: [5, 7.5], why: 'oxygen of 3 mg/l ends at 6.7 m (Casselman 1978)' },
  { species: 'bream', column: 'fertile', secchi: 1, sun: NOON, bottom: [5.5, 7.2], why: 'lives on the bottom: no light limit, oxygen alone (Backiel & Zawisza 1968)' },
  { species: 'wels catfish', column: 'fertile', secchi: 0.6, sun: NOON, bottom: [6, 7.7], why: 'bears less oxygen than most (Copp et al. 2009)' },
  { species: 'common carp', column: 'fertile', secchi: 0.6, sun: NOON, bottom: [6, 7.7], why: 'bears less oxygen than most (Edwards & Twomey 1982)' },
  { species: 'brown trout', column: 'fertile', secchi: 2, sun: NOON, top: [3, 5.6], bottom: [5.4, 6.8], why: 'squeezed between 20 °C and 5.5 mg/l (Elliott 1994)' },
  { species: 'arctic char', column: 'fertile', secchi: 2, sun: NOON, top: [4.5, 6.5], bottom: [5.8, 7.2], why: 'squeezed: hardly any water below 16 °C holds 5 mg/l (Elliott & Baroudy 1995)' },
  { species: 'burbot', column: 'fertile', secchi: 2, sun: NOON, top: [4.5, 6], bottom: [6, 7.2], why: 'between 18 °C and 4 mg/l (Stapanian et al. 2010)' },
  // Deep clear water: no oxygen limit, temperature tells.
  { species: 'lake trout', column: 'clear', secchi: 7, sun: NOON, top: [9, 12], bottom: [40, 40], why: 'below 15 °C, down to the bottom at 40 m (Christie & Regier 1988)' },
  { species: 'arctic char', column: 'clear', secchi: 7, sun: NOON, top: [8.5, 12], bottom: [40, 40], why: 'below 16 °C (Larsson 2005)' },
  { species: 'whitefish', column: 'clear', secchi: 7, sun: NIGHT, top: [0, 9], bottom: [40, 40], why: 'below 18 °C nearly everywhere (Szczepkowski et al. 2006)' },
  { species: 'perch', column: 'clear', secchi: 7, sun: NOON, top: [0, 0], bottom: [16, 30], why: 'a sight-feeder of warmer water; the deep cold layer suits less (Hokanson 1977)' },
  { species: 'zander', column: 'clear', secchi: 7, sun: NOON, top: [1, 12], bottom: [16, 40], why: 'clear water does not empty a lake: they go deeper by day (Ali, Ryder & Anctil 1977)' },
  { species: 'walleye', column: 'clear', secchi: 12, sun: NOON, top: [0, 14], bottom: [14, 40], why: 'Secchi 12 m does not empty a lake of walleye (Ryder 1977)' },
  { species: 'walleye', column: 'warmMixed', secchi: 12, sun: NOON, top: [0, 8], bottom: [10, 10], why: 'too bright everywhere: the darkest water is the best (Ryder 1977)' },
  { species: 'lake trout', column: 'clearShort', secchi: 7, sun: NOON, maxDepth: 30, top: [5, 15], bottom: [25, 30], why: 'nobody measured below 5 m: not nothing, but what the model has' },
  { species: 'zander', column: 'clearShallow', secchi: 5, sun: NIGHT, bottom: [18, 18], why: 'oxygen was measured good to the bottom: the thermocline is no floor' },
  { species: 'perch', column: 'clearShallow', secchi: 5, sun: NOON, bottom: [18, 18], why: 'oxygen was measured good to the bottom, light reaches 22 m' },
  { species: 'brown trout', column: 'clearShallow', secchi: 5, sun: NOON, top: [5.5, 7.2], bottom: [18, 18], why: 'below 20 °C, oxygen to the bottom (Raleigh et al. 1986)' },
  { species: 'smallmouth bass', column: 'clearShallow', secchi: 5, sun: NOON, top: [0, 0], bottom: [7, 18], why: 'warm enough above the thermocline (Edwards et al. 1983)' },
  // Mixed water.
  { species: 'zander', column: 'autumn', secchi: 3.6, sun: NIGHT, top: [0, 0], bottom: [20, 20], why: 'mixed and clear: no limit' },
  { species: 'zander', column: 'autumn', secchi: 3.6, sun: 20, bottom: [20, 20], why: 'mixed and clear: light keeps it down, nothing up' },
  { species: 'walleye', column: 'autumn', secchi: 1, sun: NIGHT, top: [0, 0], bottom: [20, 20], why: 'no light floor at night for a fish that shuns light (Ryder 1977)' },
  { species: 'perch', column: 'autumn', secchi: 1, sun: 20, top: [0, 0], bottom: [5, 8], why: 'a sight-feeder in turbid water: 2 m + 4 × Secchi' },
  { species: 'lake trout', column: 'autumn', secchi: 4, sun: 10, bottom: [20, 20], why: 'all of it is cold enough (Marcus et al. 1984)' },
  // Under ice.
  { species: 'walleye', column: 'ice', secchi: 1.5, sun: 15, top: [0, 0], bottom: [12, 14.5], why: 'under ice no light floor: 4 mg/l of oxygen end at 13.5 m' },
  { species: 'zander', column: 'ice', secchi: 1, sun: 15, top: [0, 0], bottom: [12, 14.5], why: 'under ice no light floor and no glare' },
  { species: 'lake trout', column: 'ice', secchi: 5, sun: 15, bottom: [10.5, 13.5], why: '5 mg/l of oxygen end at 12 m (Marcus et al. 1984)' },
  { species: 'pike', column: 'ice', secchi: 3, sun: 15, top: [0, 0], bottom: [12, 15], why: '3 mg/l of oxygen; light reaches 14 m (Casselman 1978)' },
  // Oxygen least half-way down.
  { species: 'lake trout', column: 'midMinimum', secchi: 5, sun: NOON, top: [7.2, 8.4], bottom: [25, 25], why: 'a minimum at 7 m does not end the water below it' },
  { species: 'brown trout', column: 'midMinimum', secchi: 5, sun: NOON, top: [7.2, 8.6], bottom: [25, 25], why: 'the water below the minimum is the larger part' },
  { species: 'cisco', column: 'midMinimum', secchi: 5, sun: NIGHT, top: [4.5, 8], bottom: [25, 25], why: 'bears 3 mg/l: from 20 °C down (Jacobson et al. 2008)' },
  // Heat.
  { species: 'pike', column: 'warmPike', secchi: 2.5, sun: NOON, top: [2.5, 5], bottom: [7, 10], why: 'at 27 °C pike leave the warm layer (Casselman 1978)' },
  { species: 'striped bass', column: 'hotReservoir', secchi: 2, sun: NOON, top: [4.8, 7], bottom: [6.8, 9], why: 'squeezed between 27 °C and want of oxygen (Coutant 1985)' },
  { species: 'striped bass', column: 'hotMixed', secchi: 2, sun: NOON, empty: true, why: '31 °C from top to bottom suits none (Coutant 1985)' },
  { species: 'cod', column: 'estuary', secchi: 3, sun: NOON, empty: true, why: '20 °C from top to bottom suits none (Righton et al. 2010)' },
  { species: 'cod', column: 'sound', secchi: 5, sun: NOON, top: [7, 11], bottom: [25, 30], why: 'below 16 °C (Righton et al. 2010)' },
  { species: 'sea bass', column: 'sound', secchi: 4, sun: NOON, top: [0, 0], bottom: [14, 24], why: 'the upper temperature does not touch it; light and cold do (Pickett & Pawson 1994)' },
  { species: 'largemouth bass', column: 'pond', secchi: 1, sun: NOON, top: [0, 0], bottom: [3.5, 4], why: '29 °C is what it seeks (Coutant 1975)' },
  { species: 'bluegill', column: 'hotMixed', secchi: 1.5, sun: NOON, top: [0, 0], bottom: [7, 8], why: '31 °C is borne (Stuber et al. 1982)' },
  { species: 'channel catfish', column: 'hotReservoir', secchi: 0.7, sun: NOON, top: [0, 0], bottom: [7, 9.5], why: '3 mg/l end at 8.6 m; no light limit on the bottom (McMahon & Terrell 1982)' },
  { species: 'black crappie', column: 'hotReservoir', secchi: 0.7, sun: NIGHT, top: [0, 7], bottom: [6, 9], why: 'at night no light floor; 31 °C is its limit (Edwards et al. 1982)' },
  { species: 'nile perch', column: 'tropics', secchi: 3, sun: NOON, top: [0, 0], bottom: [12, 36], why: '4.5 mg/l end at 31 m, sight before (Schofield & Chapman 2000)' },
  { species: 'brown trout', column: 'hotMixed', secchi: 2, sun: NOON, empty: true, why: '31 °C from top to bottom kills trout (Elliott 1994)' },
  { species: 'rainbow trout', column: 'trout', secchi: 4, sun: NOON, top: [0, 5.5], bottom: [18, 20], why: 'below 21 °C, oxygen to the bottom (Raleigh et al. 1984)' },
  { species: 'landlocked salmon', column: 'trout', secchi: 4, sun: NOON, top: [4, 6.2], bottom: [18, 20], why: 'below 19 °C (Warner & Havey 1985)' },
  { species: 'grayling', column: 'trout', secchi: 4, sun: NOON, top: [3.5, 6], bottom: [18, 20], why: 'below 20 °C (Northcote 1995)' },
  { species: 'eel', column: 'fertile', secchi: 1, sun: NIGHT, top: [0, 0], bottom: [6, 7.5], why: 'bears 2 mg/l (Tesch 2003)' },
  // A calm day's film is no thermocline.
  { species: 'perch', column: 'film', secchi: 3, sun: NOON, bottom: [5.8, 8], why: 'a film of 1 m does not hold perch to the surface; oxygen of 3.5 mg/l ends at 7.5 m' },
  { species: 'zander', column: 'film', secchi: 3, sun: NOON, bottom: [5.8, 8], why: 'a film of 1 m does not shut the water below it' },
  // Spawning: where, whatever else suits.
  { species: 'pike', column: 'spring', secchi: 2, sun: 30, spawning: true, top: [0, 0.2], bottom: [0.8, 2], why: 'flooded weed in less than a metre (Craig 1996)' },
  { species: 'walleye', column: 'spring', secchi: 2, sun: NIGHT, spawning: true, top: [0, 0.3], bottom: [1.5, 3.2], why: 'gravel in 0.3 to 2 m (Colby et al. 1979)' },
  { species: 'zander', column: 'late', secchi: 2, sun: 30, spawning: true, top: [0.2, 1], bottom: [2.5, 4.5], why: 'nests in 1 to 3 m (Lappalainen et al. 2003)' },
  { species: 'lake trout', column: 'autumn', secchi: 5, sun: NIGHT, spawning: true, top: [0, 1], bottom: [11, 16], why: 'rocky shoals in 1 to 12 m (Marcus et al. 1984)' },
  { species: 'burbot', column: 'cold', secchi: 3, sun: NIGHT, spawning: true, top: [0, 0.5], bottom: [7, 11], why: 'shallow hard ground in winter (McPhail & Paragamian 2000)' },
]; // prettier-ignore

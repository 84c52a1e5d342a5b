import { columnFor, findThermocline, lowLight, seasonDay, waterDensity, type UsualCourse } from '@restless-shoal/core/lake';
import { defaultSpecies, depthWindow } from '@restless-shoal/core/species';
import { COLUMNS, DEPTH_CASES } from '../core/test/species/depth-cases';
import { seeded } from '@restless-shoal/core/numbers';
import { finish, held } from './support';

// How far the modelled column lies from lakes: from what is published of some, and from a mixing model of one dimension that knows
// nothing of it. Both are given what the application is given: place, size, clarity, date and the temperature of the surface.

/** A lake of the literature on a day: values recalled from the works named, rounded, not looked up again. */
interface KnownLake {
  name: string;
  latitude: number;
  altitude: number;
  maxDepth: number;
  lengthKm: number;
  secchi: number;
  at: string;
  surface: number;
  /** Temperature of the deep water, °C, and depth of the thermocline, m; null where the column was mixed. */
  deep: number;
  thermocline: [number, number] | null;
  source: string;
}

const LAKES: KnownLake[] = [
  { name: 'Victoria', latitude: -1, altitude: 1135, maxDepth: 80, lengthKm: 300, secchi: 2, at: '2020-02-15', surface: 26, deep: 23.8, thermocline: [30, 50], source: 'Talling 1966' },
  { name: 'Malawi', latitude: -12, altitude: 474, maxDepth: 700, lengthKm: 550, secchi: 15, at: '2020-02-15', surface: 28.5, deep: 22.7, thermocline: [30, 60], source: 'Eccles 1974' },
  { name: 'Titicaca', latitude: -16, altitude: 3812, maxDepth: 280, lengthKm: 150, secchi: 8, at: '2020-02-15', surface: 15, deep: 11, thermocline: [20, 50], source: 'Richerson et al. 1986' },
  { name: 'Kariba', latitude: -17, altitude: 485, maxDepth: 90, lengthKm: 100, secchi: 5, at: '2020-01-20', surface: 29, deep: 22, thermocline: [15, 30], source: 'Coche 1974' },
  { name: 'Kinneret, summer', latitude: 32.8, altitude: 0, maxDepth: 43, lengthKm: 20, secchi: 3, at: '2020-08-15', surface: 29.5, deep: 15, thermocline: [13, 19], source: 'Serruya 1978' },
  { name: 'Kinneret, winter', latitude: 32.8, altitude: 0, maxDepth: 43, lengthKm: 20, secchi: 3, at: '2020-02-01', surface: 15, deep: 15, thermocline: null, source: 'Serruya 1978' },
  { name: 'Biwa', latitude: 35.3, altitude: 85, maxDepth: 104, lengthKm: 60, secchi: 6, at: '2020-08-15', surface: 28, deep: 7.3, thermocline: [10, 20], source: 'Horie 1984' },
  { name: 'Taupo', latitude: -38.8, altitude: 356, maxDepth: 186, lengthKm: 40, secchi: 14, at: '2020-02-15', surface: 20.5, deep: 10.9, thermocline: [25, 40], source: 'Vincent 1983' },
  { name: 'Tahoe', latitude: 39, altitude: 1897, maxDepth: 500, lengthKm: 35, secchi: 22, at: '2020-08-15', surface: 19.5, deep: 5, thermocline: [15, 25], source: 'Goldman 1988' },
  { name: 'Mendota', latitude: 43.1, altitude: 259, maxDepth: 25, lengthKm: 9, secchi: 2.5, at: '2020-08-01', surface: 25, deep: 11.5, thermocline: [8, 12], source: 'Brock 1985' },
  { name: 'Zurich', latitude: 47.3, altitude: 406, maxDepth: 136, lengthKm: 28, secchi: 5, at: '2020-08-15', surface: 23, deep: 4.8, thermocline: [8, 14], source: 'Livingstone 2003' },
  { name: 'Windermere', latitude: 54.4, altitude: 39, maxDepth: 64, lengthKm: 10, secchi: 4, at: '2020-08-10', surface: 18.5, deep: 6.5, thermocline: [9, 15], source: 'Talling 1999' },
  { name: 'Ness', latitude: 57.2, altitude: 16, maxDepth: 230, lengthKm: 36, secchi: 4, at: '2020-09-01', surface: 14, deep: 5.7, thermocline: [25, 40], source: 'Thorpe 1977' },
  { name: 'Erken', latitude: 59.8, altitude: 11, maxDepth: 21, lengthKm: 7, secchi: 4, at: '2020-07-25', surface: 19.5, deep: 11, thermocline: [8, 13], source: 'Pettersson 1990' },
  { name: 'Toolik', latitude: 68.6, altitude: 719, maxDepth: 25, lengthKm: 1.5, secchi: 7, at: '2020-07-20', surface: 14.5, deep: 4.8, thermocline: [4, 8], source: 'O’Brien et al. 1997' },
  { name: 'Toolik, ice', latitude: 68.6, altitude: 719, maxDepth: 25, lengthKm: 1.5, secchi: 7, at: '2020-04-01', surface: 0.3, deep: 3.5, thermocline: null, source: 'O’Brien et al. 1997' },
]; // prettier-ignore

/** Daily mean of the sun's heat above the air, W/m², for a latitude and day of the year. Source: any text, e.g. Hartmann 1994. */
function sunAbove(latitude: number, day: number): number {
  const declination = -0.409 * Math.cos((2 * Math.PI * (day + 10)) / 365.25);
  const phi = (latitude * Math.PI) / 180;
  const h = Math.acos(Math.min(1, Math.max(-1, -Math.tan(phi) * Math.tan(declination))));
  return (1361 / Math.PI) * (h * Math.sin(phi) * Math.sin(declination) + Math.cos(phi) * Math.cos(declination) * Math.sin(h));
}

interface MixedDay {
  day: number;
  temperature: number[];
}

const STEP_M = 0.5;

/**
 * A lake's year by a mixing model of one dimension: the air and the sun heat it, eddies carry heat down (Hondzo & Stefan 1993), wind stirs
 * the upper layer as far as its energy goes (Ford & Stefan 1980), water colder than what is below it sinks. Three years are run, the last is told.
 */
function mixedYear(latitude: number, maxDepth: number, lengthKm: number, secchi: number, seed: number): MixedDay[] {
  const random = seeded(seed);
  const n = Math.max(4, Math.round(maxDepth / STEP_M));
  const t = new Float64Array(n).fill(Math.max(4, 27 - 0.0068 * latitude ** 2));
  const areaAt = (k: number): number => Math.max(0.02, (1 - (k * STEP_M) / maxDepth) ** 1.2);
  const areaKm2 = 0.3 * lengthKm ** 2;
  const [mean, swing] = [27 - 0.0068 * latitude ** 2, (latitude < 0 ? 0.18 : 0.25) * Math.abs(latitude)];
  const heat = 4.18e6;
  const out: MixedDay[] = [];
  let weather = 0;
  for (let d = 0; d < 3 * 365; d++) {
    const day = d % 365;
    const season = Math.cos((2 * Math.PI * (day - (latitude < 0 ? 17 : 200))) / 365.25);
    weather = 0.8 * weather + 2.2 * (random() + random() + random() - 1.5);
    const air = mean + swing * season + weather;
    const sun = 0.5 * sunAbove(latitude, day);
    // A mean of 4.5 m/s over open water, spread as winds are (Weibull, shape 2), a day's strength going with its hours.
    const dayWind = 4.5 * 1.128 * Math.sqrt(-Math.log(1 - 0.98 * random()));
    for (let hour = 0; hour < 24; hour += 3) {
      const dt = 3 * 3600;
      const lit = Math.max(0, Math.cos((2 * Math.PI * (hour - 12)) / 24)) * Math.PI * sun;
      const frozen = t[0] <= 0.05 && air < 0;
      if (!frozen) {
        // The sun's warmth, less at depth, and what the surface gives to the air and the sky.
        const k = 1.7 / secchi;
        let above = 0.6 * lit;
        // Evaporation takes more from warm water: what the surface loses rises with its temperature.
        t[0] += (dt * (0.4 * lit + (18 + 0.9 * t[0]) * (air - t[0]) - 70)) / (heat * STEP_M);
        for (let i = 0; i < n; i++) {
          const below = 0.6 * lit * Math.exp(-k * (i + 1) * STEP_M);
          t[i] += (dt * (above - below)) / (heat * STEP_M);
          above = below;
        }
        t[0] = Math.max(0, t[0]);
      }
      eddies(t, areaKm2, areaAt, dt);
      sink(t);
      if (!frozen) stir(t, dayWind * (0.5 + random()), lengthKm, dt);
    }
    if (d >= 2 * 365) out.push({ day, temperature: Array.from(t) });
  }
  return out;
}

function eddies(t: Float64Array, areaKm2: number, areaAt: (k: number) => number, dt: number): void {
  const n = t.length;
  const flux = new Float64Array(n + 1);
  for (let i = 1; i < n; i++) {
    const n2 = Math.max(7.5e-5, (9.81 / 1000) * ((waterDensity(t[i]) - waterDensity(t[i - 1])) / STEP_M));
    const kz = Math.min(1e-4, 8.17e-8 * areaKm2 ** 0.56 * n2 ** -0.43);
    flux[i] = Math.max(-0.2, Math.min(0.2, (kz * dt) / STEP_M ** 2)) * (t[i - 1] - t[i]) * areaAt(i);
  }
  for (let i = 0; i < n; i++) t[i] += (flux[i] - flux[i + 1]) / areaAt(i);
}

/** Water denser than what is below it mixes with it. */
function sink(t: Float64Array): void {
  for (let i = 1; i < t.length; i++) {
    let sum = t[i];
    let from = i;
    while (from > 0 && waterDensity(t[from - 1]) > waterDensity(sum / (i - from + 1)) + 1e-9) sum += t[--from];
    if (from < i) t.fill(sum / (i - from + 1), from, i + 1);
  }
}

/** Wind's energy takes in layer after layer from below, as far as it goes. */
function stir(t: Float64Array, wind: number, lengthKm: number, dt: number): void {
  const shelter = Math.min(1, 0.35 + 0.2 * Math.log10(1 + 10 * lengthKm));
  const friction = Math.sqrt((1.2 * 1.3e-3 * (shelter * wind) ** 2) / 1000);
  let energy = 1.2 * 1000 * friction ** 3 * dt;
  let k = 1;
  while (k < t.length && Math.abs(t[k] - t[0]) < 1e-3) k++;
  for (; k < t.length; k++) {
    const lift = (waterDensity(t[k]) - waterDensity(t[0])) * 9.81 * STEP_M * ((k * STEP_M) / 2);
    if (lift > energy) return;
    energy -= Math.max(0, lift);
    const mean = (t[0] * k + t[k]) / (k + 1);
    t.fill(mean, 0, k + 1);
  }
}

/** The usual course of a simulated surface: what the log's readings would tell. */
function courseOf(year: MixedDay[], latitude: number): UsualCourse {
  let [mean, cosine, sine] = [0, 0, 0];
  for (const { day, temperature } of year) {
    const angle = (2 * Math.PI * seasonDay(new Date(Date.UTC(2021, 0, 1 + day)), latitude)) / 365.25;
    mean += temperature[0] / year.length;
    cosine += (2 * temperature[0] * Math.cos(angle)) / year.length;
    sine += (2 * temperature[0] * Math.sin(angle)) / year.length;
  }
  return { mean, cosine, sine, readings: year.length };
}

const median = (values: number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];

console.log('Lakes of the literature (recalled): deep water and thermocline, published → modelled');
const results: boolean[] = [];
const deepErrors: number[] = [];
let layersRight = 0;
const lineErrors: number[] = [];
for (const l of LAKES) {
  const column = columnFor({ ...l, at: new Date(`${l.at}T12:00:00Z`) });
  const deep = column.samples[column.samples.length - 1].temperature;
  deepErrors.push(Math.abs(deep - l.deep));
  if ((l.thermocline === null) === (column.thermocline === null)) layersRight++;
  if (l.thermocline && column.thermocline) {
    const middle = (l.thermocline[0] + l.thermocline[1]) / 2;
    lineErrors.push(Math.abs(Math.log(column.thermocline.depth / middle)));
  }
  const line = l.thermocline ? `${l.thermocline[0]}–${l.thermocline[1]} m` : 'mixed';
  const said = column.thermocline ? `${column.thermocline.depth.toFixed(1)} m` : 'mixed';
  console.log(
    `  ${l.name.padEnd(18)} ${l.deep.toFixed(1).padStart(5)} → ${deep.toFixed(1).padStart(5)} °C   ${line.padEnd(9)} → ${said}   (${l.source})`,
  );
}
results.push(held(`deep water of ${LAKES.length} lakes, median error °C`, median(deepErrors), '<=', 1.5));
results.push(held('deep water, largest error °C', Math.max(...deepErrors), '<=', 5));
results.push(held('layered or mixed told right, share', layersRight / LAKES.length, '>=', 0.9));
results.push(held('thermocline, median error, times', Math.exp(median(lineErrors)), '<=', 1.35));

console.log('\nAgainst the mixing model: every fifth day of a year');
const simDeep: number[] = [];
const simLine: number[] = [];
const simLayers: boolean[] = [];
for (const latitude of [-36, -3, 18, 28, 36, 45, 54, 62, 68])
  for (const [maxDepth, lengthKm, secchi] of [
    [12, 1, 2],
    [25, 4, 3],
    [60, 12, 6],
  ]) {
    const year = mixedYear(latitude, maxDepth, lengthKm, secchi, 7 + Math.round(latitude * 3 + maxDepth));
    const course = courseOf(year, latitude);
    const [deep, line]: number[][] = [[], []];
    let right = 0;
    let days = 0;
    for (const { day, temperature } of year.filter((_, k) => k % 5 === 0)) {
      const samples = temperature.map((v, k) => ({ depth: k * STEP_M, temperature: v }));
      const truth = findThermocline(samples);
      const at = new Date(Date.UTC(2021, 0, 1 + day, 12));
      const said = columnFor({ surface: temperature[0], at, latitude, maxDepth, lengthKm, secchi, altitude: 0, course });
      deep.push(Math.abs(said.samples[said.samples.length - 1].temperature - temperature[temperature.length - 1]));
      days++;
      if ((truth === null) === (said.thermocline === null)) right++;
      if (truth && said.thermocline) line.push(Math.abs(Math.log(said.thermocline.depth / truth.depth)));
      simLayers.push((truth === null) === (said.thermocline === null));
    }
    simDeep.push(...deep);
    simLine.push(...line);
    const summer = year[latitude < 0 ? 30 : 212].temperature;
    console.log(
      `  ${String(latitude).padStart(4)}° ${String(maxDepth).padStart(3)} m ${String(lengthKm).padStart(3)} km: summer ${summer[0].toFixed(1)}/${summer[summer.length - 1].toFixed(1)} °C; deep off by ${median(deep).toFixed(1)} °C, thermocline ${line.length ? `${Math.exp(median(line)).toFixed(2)} times` : 'none'}, layered or not right on ${Math.round((100 * right) / days)} %`,
    );
  }
results.push(held('deep water, median error °C', median(simDeep), '<=', 1.5));
results.push(held('thermocline, median error, times', Math.exp(median(simLine)), '<=', 1.5));
results.push(held('layered or not, share of days right', simLayers.filter(Boolean).length / simLayers.length, '>=', 0.85));

console.log('\nFish in measured waters: windows that hold their case');
let cases = 0;
for (const c of DEPTH_CASES) {
  const samples = COLUMNS[c.column].map(([depth, temperature, oxygen]: readonly number[]) => ({
    depth,
    temperature,
    oxygen: oxygen ?? null,
  }));
  const maxDepth = c.maxDepth ?? samples[samples.length - 1].depth;
  const at = new Date('2026-07-20T12:00:00Z');
  const column = columnFor({ surface: samples[0].temperature, at, latitude: 48, maxDepth, secchi: c.secchi, altitude: 0, lengthKm: 3, profile: { samples, at } }); // prettier-ignore
  const species = defaultSpecies.find((s) => s.name === c.species)!;
  const w = depthWindow(species, { column, secchi: c.secchi, maxDepth, sunHeight: c.sun, spawning: c.spawning });
  const inside = (v: number, range?: [number, number]): boolean => !range || (v >= range[0] && v <= range[1]);
  const holds = w.empty === (c.empty ?? false) && inside(w.top, c.top) && inside(w.bottom, c.bottom);
  if (holds) cases++;
  else console.log(`  not held: ${c.species}, ${c.column}: ${w.top.toFixed(1)}–${w.bottom.toFixed(1)} m (${c.why})`);
}
results.push(held(`of ${DEPTH_CASES.length} cases, share held`, cases / DEPTH_CASES.length, '>=', 1));

console.log('\nLow light on every day of a year, 0–66°: days without both windows');
let missing = 0;
for (let latitude = 0; latitude <= 66; latitude += 6)
  for (let day = 0; day < 365; day += 7)
    for (const longitude of [-120, 0, 150]) {
      const { windows, day: kind } = lowLight(new Date(Date.UTC(2021, 0, 1 + day, 13)), latitude, longitude);
      if (windows.length !== 2 && kind !== 'midnight sun' && kind !== 'polar night') missing++;
    }
results.push(held('days without both windows', missing, '<=', 0));
finish(results);

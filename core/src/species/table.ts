import { species, type SpeciesProfile } from './profile';

/** "16–24" as two numbers. */
const span = (text: string): [number, number] => text.split('–').map(Number) as [number, number];

/** "rising 10–15, 1–3 m": temperatures and depths; nothing where it spawns elsewhere. */
function spawningOf(text: string): SpeciesProfile['spawning'] {
  const found = /^(rising|falling) (\S+), (\S+) m$/.exec(text);
  if (!found) return null;
  const [from, to] = span(found[2]);
  return { from, to, direction: found[1] as 'rising' | 'falling', depth: span(found[3]) };
}
const list = (text: string): string[] => (text ? text.split(', ') : []);

/**
 * Reads a table of profiles, one a row, columns separated by " | ": name, scientific name, aliases, guild, temperatures
 * sought (°C), temperature left (°C), temperature that harms released fish (°C), least oxygen (mg/l), spawning
 * (rising or falling, °C, and at what depth, m; nothing for a fish that spawns elsewhere), light, place in the column, shoaling, drawn to wood, weed and hard bottom (0–1), length–weight
 * constants (g, cm), largest length (m), forage, source, what is uncertain.
 * @throws RangeError when a row is not complete
 */
export function readSpeciesTable(table: string, isForage = false): SpeciesProfile[] {
  return table
    .trim()
    .split('\n')
    .map((row) => {
      const cells = row.split('|').map((cell) => cell.trim());
      if (cells.length !== 18) throw new RangeError(`the row of ${cells[0]} has ${cells.length} columns instead of 18`);
      const [
        name,
        scientific,
        aliases,
        guild,
        preferred,
        upper,
        stress,
        oxygen,
        spawning,
        light,
        place,
        shoaling,
        drawn,
        weight,
        largest,
        forage,
        source,
        uncertain,
      ] = cells;
      const [wood, weed, hard] = drawn.split(' ').map(Number);
      const [a, b] = weight.split(' ').map(Number);
      return species({
        name,
        scientific,
        aliases: list(aliases),
        guild: guild as SpeciesProfile['guild'],
        preferred: span(preferred),
        upperAvoidance: Number(upper),
        handlingStress: Number(stress),
        leastOxygen: Number(oxygen),
        spawning: spawningOf(spawning),
        light: light as SpeciesProfile['light'],
        place: place as SpeciesProfile['place'],
        shoaling: shoaling as SpeciesProfile['shoaling'],
        forage: list(forage),
        lengthWeight: weight ? { a, b } : null,
        largest: largest ? Number(largest) : null,
        drawnTo: { wood, weed, hard },
        isForage,
        source,
        uncertain,
      });
    });
}

import { CELL_COLUMNS, cellsAtLevel, type CellTable } from '../chart';
import type { FitLook } from './look-likelihood';

/** Levels nearer to each other than this are one: depths are not charted more finely, m. */
const CLASS = 0.5;

/**
 * The cells under looks at the levels that they were made at: a water whose level moved by more than a class has its cells once for
 * each, and every look has the cell of its own. Places stay where they are; depths are what they were then.
 */
export function atTheirLevels(cells: CellTable, looks: FitLook[]): { cells: CellTable; looks: FitLook[] } {
  const classOf = (l: FitLook): number => Math.round(l.day.level / CLASS);
  const classes = [...new Set(looks.map(classOf))].sort((a, b) => a - b);
  if (!classes.length || classes[classes.length - 1] - classes[0] <= 1) {
    // One level, if not that of the datum: moved as one.
    const mean = looks.length ? looks.reduce((sum, l) => sum + l.day.level, 0) / looks.length : 0;
    const moved = cellsAtLevel(cells, mean);
    return { cells: moved, looks: looks.filter((l) => !Number.isNaN(moved.depth[l.cell])) };
  }
  const tables = classes.map((c) => cellsAtLevel(cells, c * CLASS));
  const joined = joinTables(tables);
  return {
    cells: joined,
    looks: looks
      .map((l) => ({ ...l, cell: classes.indexOf(classOf(l)) * cells.count + l.cell }))
      .filter((l) => !Number.isNaN(joined.depth[l.cell])),
  };
}

function joinTables(tables: CellTable[]): CellTable {
  const join = <T extends Float32Array | Int32Array>(of: (t: CellTable) => T): T => {
    const parts = tables.map(of);
    const out = new (parts[0].constructor as new (n: number) => T)(parts.reduce((n, p) => n + p.length, 0));
    let at = 0;
    for (const part of parts) {
      out.set(part, at);
      at += part.length;
    }
    return out;
  };
  const columns = CELL_COLUMNS.map((name) => [name, join((t) => t[name])]);
  return {
    count: tables.reduce((n, t) => n + t.count, 0),
    column: join((t) => t.column),
    row: join((t) => t.row),
    fetch: join((t) => t.fetch),
    ...(Object.fromEntries(columns) as Pick<CellTable, (typeof CELL_COLUMNS)[number]>),
  };
}

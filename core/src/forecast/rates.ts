import type { CellTable } from '../chart';
import type { SpeciesProfile } from '../species';
import type { Look } from '../logbook';
import type { Day } from './conditions';
import { Design, designDay, SparseRow, type DesignDay } from './design';
import type { Model } from './fit';

/** Log rates of a fit for single cells and days: a scan of a whole cell, without the luck of a trip. */
export class Rates {
  private readonly design: Design;
  private readonly days = new Map<Day, DesignDay>();
  private readonly row = new SparseRow();

  constructor(
    private readonly model: Pick<Model, 'spec' | 'beta'>,
    cells: CellTable,
    private readonly species: SpeciesProfile,
  ) {
    this.design = new Design(model.spec, cells);
  }

  /** The day as the design sees it, worked out once. */
  dayOf(day: Day): DesignDay {
    let today = this.days.get(day);
    if (!today) this.days.set(day, (today = designDay(this.species, day)));
    return today;
  }

  /** @param look a scan whose view, range and visit count; a first scan as the log usually makes it where none is said */
  of(cell: number, day: Day, look: Look | null = null): number {
    const today = this.dayOf(day);
    this.design.fill(this.row, cell, today, 0, -1);
    if (look) this.design.addDetection(this.row, look, cell);
    let eta = this.design.prior(cell, today);
    for (let j = 0; j < this.row.n; j++) eta += this.row.value[j] * this.model.beta[this.row.index[j]];
    return eta;
  }
}

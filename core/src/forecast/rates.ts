import type { CellTable } from '../chart';
import type { Look } from '../logbook';
import type { Day } from './conditions';
import { DayTotal, stayingShift } from './day-total';
import { Design, designDay, SparseRow, type DesignDay } from './design';
import type { Model } from './fit';

/** Log rates of a fit for single cells and days: a scan of a whole cell, without the luck of a trip. */
export class Rates {
  private readonly design: Design;
  private readonly days = new Map<Day, DesignDay>();
  private readonly shifts = new Map<Day, number>();
  private readonly total: DayTotal;
  private readonly row = new SparseRow();

  constructor(
    private readonly model: Pick<Model, 'spec' | 'beta' | 'usualTotal' | 'profile'>,
    cells: CellTable,
  ) {
    this.design = new Design(model.spec, cells);
    this.total = new DayTotal(this.design, model.beta, cells, model.profile);
  }

  /** The day as the design sees it, worked out once. */
  dayOf(day: Day): DesignDay {
    let today = this.days.get(day);
    if (!today) this.days.set(day, (today = designDay(this.model.profile, day)));
    return today;
  }

  /** How much more or less a scan shows than a first one as the log usually makes it, by its view, range and visit; log scale. */
  detection(look: Look, cell: number): number {
    this.row.n = 0;
    this.design.addDetection(this.row, look, cell);
    return this.row.sumOf(this.model.beta, 0);
  }

  private shiftOf(day: Day): number {
    const { usualTotal } = this.model;
    if (usualTotal === null) return 0;
    let shift = this.shifts.get(day);
    if (shift === undefined) this.shifts.set(day, (shift = stayingShift(this.total.logMean(this.dayOf(day)), usualTotal)));
    return shift;
  }

  of(cell: number, day: Day): number {
    const today = this.dayOf(day);
    this.design.fill(this.row, cell, today, 0, -1);
    return this.row.sumOf(this.model.beta, this.design.prior(cell, today) + this.shiftOf(day));
  }
}

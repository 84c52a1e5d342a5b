/** Side of the cells that looks and forecasts are counted in, metres. */
export const CELL = 25;

/** Column and row of the 25 m cell of the water's metric grid that holds a point. */
export const cellOf = (x: number, y: number): [column: number, row: number] => [Math.floor(x / CELL), Math.floor(y / CELL)];

/** A cell as one number, for maps: columns of UTM stay below 40,000 and rows below 400,000. */
export const cellKey = (column: number, row: number): number => row * 65536 + column;

export const parseCellKey = (key: number): [column: number, row: number] => [key % 65536, Math.floor(key / 65536)];

/** Centre of a cell in metres. */
export const cellCentre = (column: number, row: number): [x: number, y: number] => [(column + 0.5) * CELL, (row + 0.5) * CELL];

/** A metric raster; row 0 is the southernmost. Missing values are NaN. */
export class Raster {
  readonly data: Float32Array;
  /**
   * @param x0 west edge, m
   * @param y0 south edge, m
   * @param size side of a cell, m
   * @param width columns
   * @param height rows
   */
  constructor(
    readonly x0: number,
    readonly y0: number,
    readonly size: number,
    readonly width: number,
    readonly height: number,
    data?: Float32Array,
  ) {
    this.data = data ?? new Float32Array(width * height).fill(NaN);
  }

  /** Index of the cell that holds a point, −1 outside. */
  index(x: number, y: number): number {
    const i = Math.floor((x - this.x0) / this.size);
    const j = Math.floor((y - this.y0) / this.size);
    return i >= 0 && j >= 0 && i < this.width && j < this.height ? j * this.width + i : -1;
  }

  /** Value of the cell that holds a point; NaN outside or where nothing is known. */
  at(x: number, y: number): number {
    const i = this.index(x, y);
    return i < 0 ? NaN : this.data[i];
  }

  /** Value at a point, bilinear between the centres of cells; the cell's own where a neighbour is missing. */
  between(x: number, y: number): number {
    const [u, v] = [(x - this.x0) / this.size - 0.5, (y - this.y0) / this.size - 0.5];
    const [i, j] = [Math.floor(u), Math.floor(v)];
    if (i < 0 || j < 0 || i + 1 >= this.width || j + 1 >= this.height) return this.at(x, y);
    const [a, b] = [u - i, v - j];
    const k = j * this.width + i;
    const { data } = this;
    const low = data[k] + a * (data[k + 1] - data[k]);
    const value = low + b * (data[k + this.width] + a * (data[k + this.width + 1] - data[k + this.width]) - low);
    return Number.isNaN(value) ? this.at(x, y) : value;
  }

  centre(index: number): [x: number, y: number] {
    return [this.x0 + ((index % this.width) + 0.5) * this.size, this.y0 + (Math.floor(index / this.width) + 0.5) * this.size];
  }

  /** An empty raster of the same frame. */
  like(): Raster {
    return new Raster(this.x0, this.y0, this.size, this.width, this.height);
  }
}

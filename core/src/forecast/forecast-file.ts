import type { CellTable } from '../chart';
import { csvLine } from '../formats';
import { cellCentre, type MetricPlane } from '../geo';
import type { Forecast } from './predict';

const COLUMNS = ['latitude', 'longitude', 'probability', 'low', 'high', 'depth_top_m', 'depth_bottom_m', 'species', 'at'];

/** A forecast as the CSV of the exchange formats: one row for the centre of every cell, chances 0–1, depths in m. @param at ISO 8601 */
export function forecastCsv(forecast: Forecast, cells: CellTable, plane: MetricPlane, species: string, at: string): string {
  const lines = [csvLine(COLUMNS)];
  for (let i = 0; i < cells.count; i++) {
    const p = plane.toLatLon(cellCentre(cells.column[i], cells.row[i]));
    lines.push(
      csvLine([
        p.latitude.toFixed(7),
        p.longitude.toFixed(7),
        forecast.probability[i].toPrecision(5),
        forecast.low[i].toPrecision(4),
        forecast.high[i].toPrecision(4),
        forecast.depthTop[i].toFixed(2),
        forecast.depthBottom[i].toFixed(2),
        species,
        at,
      ]),
    );
  }
  return lines.join('');
}

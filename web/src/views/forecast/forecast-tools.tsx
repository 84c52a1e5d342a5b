import { Bookmark, Download, GitCompareArrows, X } from 'lucide-react';
import { forecastCsv, type Conditions } from '@restless-shoal/core/forecast';
import { gpxOf } from '@restless-shoal/core/formats';
import { cellCentre, metricPlane } from '@restless-shoal/core/geo';
import { clockInZone, compass, dayInZone, inZone } from '../../parts/format';
import { saveFile } from '../../parts/save-file';
import { useWaterState } from '../../state/water';
import type { ForecastAnswer } from '../../workers/forecast.worker';
import { forecast as msg, formatSpeed, say } from '../../words';

/** A forecast kept to hold others against. */
export interface Kept {
  probability: Float32Array;
  /** What it was for, in words. */
  words: string;
}

/** Conditions in a few words. */
export const momentWords = ({ at, windFrom, windSpeed }: Conditions, zone: string | null): string =>
  `${dayInZone(at, zone)} ${clockInZone(at, zone)}, ${compass(windFrom)} ${formatSpeed(Math.round(windSpeed))}`;

const HOUR = 3_600_000;

/** Time of day, and the change between two conditions. */
export function ForecastTools({
  answer,
  kept,
  onKeep,
  onDrop,
}: {
  answer: ForecastAnswer | null;
  kept: Kept | null;
  onKeep: (tomorrow: boolean) => void;
  onDrop: () => void;
}) {
  const { water, conditions, setWhatIf } = useWaterState();
  const zone = water.time_zone;
  const [h, m] = inZone(conditions.at, zone, { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' }).split(':').map(Number);
  const hour = Math.round((h + m / 60) * 2) / 2;
  return (
    <div className="flex flex-wrap items-center gap-2 max-md:gap-1">
      <label className="flex items-center gap-2 rounded-box border border-line bg-surface px-3 py-1.5 text-sm max-md:px-2">
        <span className="num w-11 font-bold">{clockInZone(conditions.at, zone)}</span>
        <input
          type="range"
          className="range range-sm w-32 max-md:w-20"
          aria-label={msg('forecastTools.timeOfDay')}
          aria-valuetext={clockInZone(conditions.at, zone)}
          min={0}
          max={23.5}
          step={0.5}
          value={hour}
          onChange={(e) => setWhatIf({ at: new Date(conditions.at.getTime() + (Number(e.target.value) - h - m / 60) * HOUR) })}
        />
      </label>
      {kept ? (
        <p className="flex items-center gap-1 rounded-box border border-line bg-surface py-0.5 pl-3 text-sm" data-testid="compared">
          {msg('forecastTools.nowMinus')} <b className="num">{kept.words}</b>
          <button
            type="button"
            className="btn btn-ghost btn-sm touch-target px-2"
            aria-label={msg('forecastTools.stopComparing')}
            onClick={onDrop}
          >
            <X size={16} aria-hidden />
          </button>
        </p>
      ) : (
        <span className="flex rounded-box border border-line bg-surface">
          <button type="button" className="btn btn-ghost btn-sm touch-target font-normal" disabled={!answer} onClick={() => onKeep(true)}>
            <GitCompareArrows size={16} aria-hidden />
            <span>
              <span className="max-md:sr-only">{msg('forecastTools.changeBy')} </span>
              {msg('forecastTools.tomorrow')}
            </span>
          </button>
          <button type="button" className="btn btn-ghost btn-sm touch-target font-normal" disabled={!answer} onClick={() => onKeep(false)}>
            <Bookmark size={16} aria-hidden className="md:hidden" />
            <span className="max-md:sr-only">{msg('forecastTools.compare')}</span>
          </button>
        </span>
      )}
    </div>
  );
}

/** The forecast and its best places as files. */
export function Files({ answer }: { answer: ForecastAnswer | null }) {
  const { chart, water } = useWaterState();
  // What the answer was asked for, also while the next one is being worked out.
  const species = answer?.species ?? '';
  const at = answer?.at.toISOString() ?? '';
  const name = `${water.name} ${species}`.toLowerCase().replace(/[^a-z0-9]+/g, '-');
  const plane = metricPlane(chart!.epsg);
  const cells = (): { latitude: number; longitude: number; i: number }[] =>
    Array.from({ length: chart!.cells.count }, (_, i) => ({
      ...plane.toLatLon(cellCentre(chart!.cells.column[i], chart!.cells.row[i])),
      i,
    }));
  const csv = (): string => forecastCsv(answer!.forecast, chart!.cells, plane, species, at);
  const geoJson = (): string => {
    const f = answer!.forecast;
    const number = (v: number, digits: number): number => Number(v.toFixed(digits));
    return JSON.stringify({
      type: 'FeatureCollection',
      features: cells().map(({ latitude, longitude, i }) => ({
        type: 'Feature',
        geometry: { type: 'Point', coordinates: [number(longitude, 7), number(latitude, 7)] },
        properties: {
          probability: number(f.probability[i], 5),
          low: number(f.low[i], 5),
          high: number(f.high[i], 5),
          depth_top_m: number(f.depthTop[i], 2),
          depth_bottom_m: number(f.depthBottom[i], 2),
          species,
          at,
        },
      })),
    });
  };
  const gpx = (): string =>
    gpxOf(
      `${species}, ${water.name}`,
      answer!.places.map((p, k) => ({
        ...plane.toLatLon([p.x, p.y]),
        name: `${k + 1} ${say(p.name)}`,
        type: 'forecast',
        depth: p.depth,
        time: at,
        words: msg('forecastTools.aScanHoldAt', {
          probability: Math.round(100 * p.probability),
          depthTop: p.depthTop,
          depthBottom: p.depthBottom,
        }),
      })),
    );
  const button = 'btn btn-ghost btn-sm touch-target px-1.5 font-normal';
  return (
    <span className="flex items-center" role="group" aria-label={msg('forecastTools.saveTheForecast')}>
      <Download size={16} className="text-mute" aria-hidden />
      <button
        type="button"
        className={button}
        aria-label={msg('forecastTools.forecastAsCsv')}
        disabled={!answer}
        onClick={() => saveFile(`${name}.csv`, csv(), 'text/csv')}
      >
        {msg('forecastTools.csv')}
      </button>
      <button
        type="button"
        className={button}
        aria-label={msg('forecastTools.forecastAsGeojson')}
        disabled={!answer}
        onClick={() => saveFile(`${name}.geojson`, geoJson(), 'application/geo+json')}
      >
        {msg('forecastTools.geojson')}
      </button>
      <button
        type="button"
        className={button}
        aria-label={msg('forecastTools.bestPlacesAsGpx')}
        disabled={!answer}
        onClick={() => saveFile(`${name}.gpx`, gpx(), 'application/gpx+xml')}
      >
        {msg('forecastTools.gpx')}
      </button>
    </span>
  );
}

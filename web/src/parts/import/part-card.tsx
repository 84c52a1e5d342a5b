import type { PartPreview } from '@restless-shoal/core/contract';
import { useState, type ReactNode } from 'react';
import { TARGETS, unitsOf, type PartMapping, type PartUse, type Question, type Target } from '@restless-shoal/core/tables';
import { grouped, ownZone, zoneWords } from '../format';
import { readNumber } from '../read-number';
import { Segments } from '../segments';
import { PreviewPlot } from './preview-plot';
import { Problem } from '../problem';

const USES: [PartUse, string][] = [
  ['soundings', 'Soundings'],
  ['catches', 'A log of catches'],
  ['outline', 'The outline'],
  ['places', 'Places and marks'],
  ['skip', 'Leave it out'],
];

const WORDS: Record<Target, string> = {
  latitude: 'latitude',
  longitude: 'longitude',
  x: 'x (easting)',
  y: 'y (northing)',
  depth: 'depth',
  elevation: 'height of the bottom',
  time: 'date and time',
  date: 'date',
  clock: 'time of day',
  temperature: 'water temperature',
  hardness: 'hardness (0–1)',
  heading: 'heading',
  speed: 'speed',
  place: 'place name',
  species: 'species',
  number: 'number of fish',
  length: 'length of the fish',
  mass: 'weight of the fish',
  lure: 'lure or bait',
  colour: 'colour of the lure',
  clarity: 'clarity (Secchi)',
  wind_speed: 'wind speed',
  wind_from: 'wind direction',
  hours: 'hours fished',
  rods: 'rods',
  angler: 'angler or client',
  fate: 'released or kept',
  notes: 'notes',
  skip: '– not used –',
};

/** What a use can be chosen for: areas bound a water, tables do not. */
const usesOf = ({ name, columns }: PartPreview): [PartUse, string][] => {
  const areas = /, areas$/.test(name);
  const map = /, (points|lines)$/.test(name);
  return USES.filter(
    ([use]) =>
    use === 'skip' ? true : areas ? use === 'outline' : use === 'outline' ? /, lines$/.test(name) : use === 'places' ? /, points$/.test(name) : use === 'catches' ? !map && columns.length > 2 : true, // prettier-ignore
  );
};

/** One part of a file: what it becomes, what has to be asked, its first rows, and how they will be read. */
export function PartCard({
  preview,
  asked,
  zone,
  onChange,
  children,
}: {
  preview: PartPreview;
  /** What was asked of it so far: an answered question stays, to be answered otherwise. */
  asked: Question[];
  /** The water's own time zone. */
  zone: string | null;
  onChange: (mapping: PartMapping) => void;
  children?: ReactNode;
}) {
  const { mapping, name, columns, rows, questions, soundings, bad, fault, catches } = preview;
  const [open, setOpen] = useState(questions.includes('columns'));
  const set = (more: Partial<PartMapping>): void => onChange({ ...mapping, ...more });
  const setColumn = (k: number, to: Target, unit?: string): void =>
    set({
      columns: mapping.columns.map((c, j) =>
        j === k
          ? { from: c.from, to, ...(unit ? { unit } : unitsOf(to).length && c.to === to && c.unit ? { unit: c.unit } : {}) }
          : // What a column holds, another one does not.
            c.to === to && to !== 'skip'
            ? { from: c.from, to: 'skip' }
            : c,
      ),
    });
  const table = mapping.as === 'soundings' || mapping.as === 'catches';
  const depthAt = mapping.columns.findIndex((c) => c.to === 'depth' || c.to === 'elevation');
  return (
    <section aria-label={name} className="border-t border-line py-3">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h3 className="min-w-0 truncate font-bold">{name}</h3>
        <select
          className="select h-11 w-48"
          aria-label={`What ${name} becomes`}
          value={mapping.as}
          onChange={(e) => set({ as: e.target.value as PartUse })}
        >
          {usesOf(preview).map(([use, words]) => (
            <option key={use} value={use}>
              {words}
            </option>
          ))}
        </select>
      </div>
      {asked.includes('columns') && (
        <p className="mt-2 border-l-4 border-bait pl-3">
          {mapping.as === 'skip'
            ? 'What its columns hold cannot be told from their names, so it is left out. If it holds soundings or catches, choose so above.'
            : 'Say below which columns hold the position and the depth.'}
        </p>
      )}
      {table && (
        <>
          <Questions
            asked={asked}
            mapping={mapping}
            depth={depthAt >= 0 ? mapping.columns[depthAt].from : null}
            zone={zone}
            onUnit={(unit) => setColumn(depthAt, mapping.columns[depthAt].to, unit)}
            onChange={set}
          />
          <Problem words={fault} />
          {bad.count > 0 && (
            <details className="mt-1 text-sm">
              <summary className="min-h-9 cursor-pointer py-1.5">{grouped(bad.count)} of the first rows cannot be read</summary>
              <ul className="num pl-4 text-mute">
                {bad.first.map((b, k) => (
                  <li key={k}>
                    row {b.line}, {b.column}: {b.reason}
                  </li>
                ))}
              </ul>
            </details>
          )}
          <div className="mt-2 flex flex-wrap items-start gap-3">
            {soundings.length > 0 && <PreviewPlot soundings={soundings} />}
            {catches && (
              <p className="num" data-testid="catches">
                <b>{grouped(catches.rows)} rows</b>: {catches.trips} {catches.trips === 1 ? 'trip' : 'trips'}, {catches.fish} fish
                {catches.blanks > 0 && `, ${catches.blanks} blanks`}
              </p>
            )}
          </div>
          {children}
          <details className="mt-1" open={open} onToggle={(e) => setOpen(e.currentTarget.open)}>
            <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">Its columns and first rows</summary>
            <div className="overflow-x-auto" tabIndex={0} aria-label={`Columns of ${name}`}>
              <table className="num text-sm">
                <thead>
                  <tr className="align-top">
                    {columns.map((column, k) => {
                      const mapped = mapping.columns[k];
                      const units = unitsOf(mapped?.to ?? 'skip');
                      return (
                        <th key={column} className="min-w-32 p-1 text-left font-semibold">
                          <span className="block truncate">{column}</span>
                          <select
                            className="select h-11 w-full px-2 font-normal"
                            aria-label={`What ${column} holds`}
                            value={mapped?.to ?? 'skip'}
                            onChange={(e) => setColumn(k, e.target.value as Target)}
                          >
                            {TARGETS.map((t) => (
                              <option key={t} value={t}>
                                {WORDS[t]}
                              </option>
                            ))}
                          </select>
                          {units.length > 0 && (
                            <select
                              className="select mt-1 h-11 w-full px-2 font-normal"
                              aria-label={`Unit of ${column}`}
                              value={mapped?.unit ?? ''}
                              onChange={(e) => setColumn(k, mapped.to, e.target.value || undefined)}
                            >
                              <option value="">unit?</option>
                              {units.map((u) => (
                                <option key={u}>{u}</option>
                              ))}
                            </select>
                          )}
                        </th>
                      );
                    })}
                  </tr>
                </thead>
                <tbody>
                  {rows.map((row, k) => (
                    <tr key={k} className="border-t border-line">
                      {columns.map((column, j) => (
                        <td key={column} className={`max-w-48 truncate p-1 ${mapping.columns[j]?.to === 'skip' ? 'text-mute' : ''}`}>
                          {row[j] ?? ''}
                        </td>
                      ))}
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          </details>
        </>
      )}
    </section>
  );
}

/** What cannot be known from a file, asked in words. */
function Questions({
  asked,
  mapping,
  depth,
  zone,
  onUnit,
  onChange,
}: {
  asked: Question[];
  mapping: PartMapping;
  /** Name of the column with the depths. */
  depth: string | null;
  zone: string | null;
  onUnit: (unit: string) => void;
  onChange: (more: Partial<PartMapping>) => void;
}) {
  const [level, setLevel] = useState(mapping.level === null ? '' : String(mapping.level));
  const [crs, setCrs] = useState(mapping.crs === null ? '' : String(mapping.crs));
  const own = ownZone();
  const zones = [...new Set([...(zone ? [zone] : []), own, 'UTC', ...Intl.supportedValuesOf('timeZone')])];
  const unit = mapping.columns.find((c) => c.to === 'depth' || c.to === 'elevation')?.unit ?? null;
  const swap = (): void =>
    onChange({
      columns: mapping.columns.map((c) =>
        c.to === 'latitude' ? { ...c, to: 'longitude' } : c.to === 'longitude' ? { ...c, to: 'latitude' } : c,
      ),
    });
  const row = 'mt-2 grid gap-1';
  return (
    <>
      {asked.includes('unit') && depth !== null && (
        <div className={row}>
          <span>Which unit is “{depth}” in?</span>
          <Segments
            label="Unit of the depths"
            value={unit}
            options={[
              ['m', 'metres'],
              ['ft', 'feet'],
              ['fathom', 'fathoms'],
              ['cm', 'cm'],
            ]}
            onChange={(u) => onUnit(u!)}
          />
        </div>
      )}
      {asked.includes('sign') && (
        <div className={row}>
          <span>“{depth}” has positive and negative numbers. Which is deeper?</span>
          <Segments
            label="Sign of the depths"
            value={mapping.sign}
            options={[
              ['down', '5 is deeper than 2'],
              ['up', '−5 is deeper than −2'],
            ]}
            onChange={(sign) => onChange({ sign: sign as PartMapping['sign'] })}
          />
        </div>
      )}
      {asked.includes('level') && (
        <label className={row}>
          <span>“{depth}” holds heights of the bottom. How high did the water’s surface stand, in metres, in the same system?</span>
          <input
            className="input num h-11 w-40"
            aria-label="Height of the surface, m"
            inputMode="decimal"
            value={level}
            onChange={(e) => {
              setLevel(e.target.value);
              const n = readNumber(e.target.value);
              onChange({ level: e.target.value.trim() === '' || Number.isNaN(n) ? null : n });
            }}
          />
        </label>
      )}
      {asked.includes('zone') && (
        <label className={row}>
          <span>Its times name no zone. By which clock were they written?</span>
          <select
            className="select h-11 w-full"
            aria-label="Time zone of the file"
            value={mapping.zone ?? ''}
            onChange={(e) => onChange({ zone: e.target.value || null })}
          >
            <option value="" disabled>
              choose …
            </option>
            {zones.map((z) => (
              <option key={z} value={z}>
                {zoneWords(z)}
                {z === zone ? ' (the water’s)' : z === own ? ' (this device’s)' : ''}
              </option>
            ))}
          </select>
        </label>
      )}
      {asked.includes('order') && (
        <div className={row}>
          <span>Its dates can be read in two ways. Which comes first?</span>
          <Segments
            label="Order of the dates"
            value={mapping.order}
            options={[
              ['dmy', 'the day (31/12)'],
              ['mdy', 'the month (12/31)'],
            ]}
            onChange={(order) => onChange({ order: order as PartMapping['order'] })}
          />
        </div>
      )}
      {asked.includes('hours') && (
        <div className={row}>
          <span>What are the hours on a row of?</span>
          <Segments
            label="What the hours are of"
            value={mapping.hours}
            options={[
              ['place', 'of that place'],
              ['day', 'of the whole day'],
            ]}
            onChange={(hours) => onChange({ hours: hours as PartMapping['hours'] })}
          />
        </div>
      )}
      {asked.includes('crs') && (
        <label className={row}>
          <span>Which coordinate system are x and y in? Its EPSG code, such as 32633 for UTM zone 33 north.</span>
          <input
            className="input num h-11 w-40"
            aria-label="EPSG code"
            inputMode="numeric"
            value={crs}
            onChange={(e) => {
              setCrs(e.target.value);
              onChange({ crs: /^\d{4,6}$/.test(e.target.value.trim()) ? Number(e.target.value) : null });
            }}
          />
        </label>
      )}
      {asked.includes('axes') && (
        <div className={`${row} grid-cols-[1fr_auto] items-center`}>
          <span>
            “{mapping.columns.find((c) => c.to === 'latitude')?.from}” is taken for the latitude. Look at the map: is that where the water
            lies?
          </span>
          <button type="button" className="btn touch-target" onClick={swap}>
            Swap them
          </button>
        </div>
      )}
      {mapping.day !== null && mapping.as === 'soundings' && (
        <label className="mt-2 flex items-center gap-3 text-sm">
          <span>It says no time. Sounded on</span>
          <input
            type="date"
            className="input num h-11"
            aria-label="Day of the soundings"
            value={mapping.day}
            onChange={(e) => e.target.value && onChange({ day: e.target.value })}
          />
        </label>
      )}
    </>
  );
}

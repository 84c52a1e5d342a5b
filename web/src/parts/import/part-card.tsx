import type { PartPreview } from '@restless-shoal/core/contract';
import { useState, type ReactNode } from 'react';
import { TARGETS, unitsOf, type PartMapping, type PartUse, type Question, type Target } from '@restless-shoal/core/tables';
import { grouped, ownZone, zoneWords } from '../format';
import { readNumber } from '../read-number';
import { Segments } from '../segments';
import { PreviewPlot } from './preview-plot';
import { Problem } from '../problem';
import { imports as msg } from '../../words';

const USES: [PartUse, string][] = [
  ['soundings', msg('partCard.soundings')],
  ['catches', msg('partCard.aLogOfCatches')],
  ['outline', msg('partCard.theOutline')],
  ['places', msg('partCard.placesAndMarks')],
  ['skip', msg('partCard.skipIt')],
];

const WORDS: Record<Target, string> = {
  latitude: msg('partCard.latitude'),
  longitude: msg('partCard.longitude'),
  x: msg('partCard.xEasting'),
  y: msg('partCard.yNorthing'),
  depth: msg('partCard.depth'),
  elevation: msg('partCard.heightOfTheBottom'),
  time: msg('partCard.dateAndTime'),
  date: msg('partCard.date'),
  clock: msg('partCard.timeOfDay'),
  temperature: msg('partCard.waterTemperature'),
  hardness: msg('partCard.hardness'),
  heading: msg('partCard.heading'),
  speed: msg('partCard.speed'),
  place: msg('partCard.placeName'),
  species: msg('partCard.species'),
  number: msg('partCard.numberOfFish'),
  length: msg('partCard.lengthOfTheFish'),
  mass: msg('partCard.weightOfTheFish'),
  lure: msg('partCard.lureOrBait'),
  colour: msg('partCard.colourOfTheLure'),
  clarity: msg('partCard.claritySecchi'),
  wind_speed: msg('partCard.windSpeed'),
  wind_from: msg('partCard.windDirection'),
  hours: msg('partCard.hoursFished'),
  rods: msg('partCard.rods'),
  angler: msg('partCard.anglerOrClient'),
  fate: msg('partCard.releasedOrKept'),
  notes: msg('partCard.notes'),
  skip: msg('partCard.notUsed'),
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
          aria-label={msg('partCard.whatBecomes', { name })}
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
          {mapping.as === 'skip' ? msg('partCard.theColumnNamesDo') : msg('partCard.sayBelowWhichColumns')}
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
              <summary className="min-h-9 cursor-pointer py-1.5">{msg('partCard.ofTheFirstRows', { count: grouped(bad.count) })}</summary>
              <ul className="num pl-4 text-mute">
                {bad.first.map((b, k) => (
                  <li key={k}>{msg('partCard.row', { line: b.line, column: b.column, reason: b.reason })}</li>
                ))}
              </ul>
            </details>
          )}
          <div className="mt-2 flex flex-wrap items-start gap-3">
            {soundings.length > 0 && <PreviewPlot soundings={soundings} />}
            {catches && (
              <p className="num" data-testid="catches">
                <b>{msg('partCard.rows', { rows: grouped(catches.rows) })}</b>
                {msg('partCard.tripFish', {
                  trips: catches.trips,
                  fish: catches.fish,
                  value: catches.blanks > 0 ? msg('partCard.blanks', { blanks: catches.blanks }) : '',
                })}
              </p>
            )}
          </div>
          {children}
          <details className="mt-1" open={open} onToggle={(e) => setOpen(e.currentTarget.open)}>
            <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">{msg('partCard.itsColumnsAndFirst')}</summary>
            <div className="overflow-x-auto" tabIndex={0} aria-label={msg('partCard.columnsOf', { name })}>
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
                            aria-label={msg('partCard.whatHolds', { column })}
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
                              aria-label={msg('partCard.unitOf', { column })}
                              value={mapped?.unit ?? ''}
                              onChange={(e) => setColumn(k, mapped.to, e.target.value || undefined)}
                            >
                              <option value="">{msg('partCard.unit')}</option>
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
          <span>{msg('partCard.whichUnitIsIn', { depth })}</span>
          <Segments
            label={msg('partCard.unitOfTheDepths')}
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
          <span>
            “{depth}
            {msg('partCard.hasPositiveAndNegative')}
          </span>
          <Segments
            label={msg('partCard.signOfTheDepths')}
            value={mapping.sign}
            options={[
              ['down', msg('partCard.isDeeperThan')],
              ['up', msg('partCard.isDeeperThan2')],
            ]}
            onChange={(sign) => onChange({ sign: sign as PartMapping['sign'] })}
          />
        </div>
      )}
      {asked.includes('level') && (
        <label className={row}>
          <span>
            “{depth}
            {msg('partCard.holdsHeightsOfThe')}
          </span>
          <input
            className="input num h-11 w-40"
            aria-label={msg('partCard.heightOfTheSurface')}
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
          <span>{msg('partCard.itsTimesHaveNo')}</span>
          <select
            className="select h-11 w-full"
            aria-label={msg('partCard.timeZoneOfThe')}
            value={mapping.zone ?? ''}
            onChange={(e) => onChange({ zone: e.target.value || null })}
          >
            <option value="" disabled>
              {msg('partCard.choose')}
            </option>
            {zones.map((z) => (
              <option key={z} value={z}>
                {zoneWords(z)}
                {z === zone ? msg('partCard.theWaters') : z === own ? msg('partCard.thisDevices') : ''}
              </option>
            ))}
          </select>
        </label>
      )}
      {asked.includes('order') && (
        <div className={row}>
          <span>{msg('partCard.itsDatesCanBe')}</span>
          <Segments
            label={msg('partCard.orderOfTheDates')}
            value={mapping.order}
            options={[
              ['dmy', msg('partCard.theDay')],
              ['mdy', msg('partCard.theMonth')],
            ]}
            onChange={(order) => onChange({ order: order as PartMapping['order'] })}
          />
        </div>
      )}
      {asked.includes('hours') && (
        <div className={row}>
          <span>{msg('partCard.whatAreTheHours')}</span>
          <Segments
            label={msg('partCard.whatTheHoursAre')}
            value={mapping.hours}
            options={[
              ['place', msg('partCard.thatSpot')],
              ['day', msg('partCard.theWholeDay')],
            ]}
            onChange={(hours) => onChange({ hours: hours as PartMapping['hours'] })}
          />
        </div>
      )}
      {asked.includes('crs') && (
        <label className={row}>
          <span>{msg('partCard.whichCoordinateSystemAre')}</span>
          <input
            className="input num h-11 w-40"
            aria-label={msg('partCard.epsgCode')}
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
            “{mapping.columns.find((c) => c.to === 'latitude')?.from}
            {msg('partCard.isTakenForThe')}
          </span>
          <button type="button" className="btn touch-target" onClick={swap}>
            {msg('partCard.swapThem')}
          </button>
        </div>
      )}
      {mapping.day !== null && mapping.as === 'soundings' && (
        <label className="mt-2 flex items-center gap-3 text-sm">
          <span>{msg('partCard.itHasNoDate')}</span>
          <input
            type="date"
            className="input num h-11"
            aria-label={msg('partCard.dayOfTheSoundings')}
            value={mapping.day}
            onChange={(e) => e.target.value && onChange({ day: e.target.value })}
          />
        </label>
      )}
    </>
  );
}

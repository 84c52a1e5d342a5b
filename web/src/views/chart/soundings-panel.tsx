import { Download, Upload } from 'lucide-react';
import { useState } from 'react';
import type { CleanSettings, CleanStep } from '@restless-shoal/core/chart';
import { isOwnArea } from '@restless-shoal/core/logbook';
import { ask } from '../../api/client';
import { readNumber } from '../../parts/read-number';
import { useSurveys } from '../../api/queries';
import { dayInZone, grouped } from '../../parts/format';
import { useWaterState } from '../../state/water';
import { chart as msg, formatLength } from '../../words';
import { told } from '../../parts/told';

/** Steps of the cleaning with the setting that switches each. */
const SWITCHES: Partial<Record<CleanStep['name'], keyof CleanSettings>> = {
  'position jumps': 'jumps',
  'second echo': 'doubles',
  spikes: 'spikes',
  'time lag': 'lag',
  'water level': 'level',
};

/** Steps that need a figure: without one they are not taken. */
const FIGURES: Partial<Record<CleanStep['name'], Figure>> = {
  'transducer depth': { key: 'transducer_m', label: msg('soundingsPanel.depthOfTheTransducer'), unit: 'm', min: 0, max: 30 },
  'sound speed': { key: 'assumed_sound_ms', label: msg('soundingsPanel.speedOfSoundSet'), unit: 'm/s', min: 1300, max: 1700 },
};

interface Figure {
  key: 'transducer_m' | 'assumed_sound_ms';
  label: string;
  unit: string;
  min: number;
  max: number;
}

const EXPORTS = [
  ['water.zip', msg('soundingsPanel.everythingAsOneZip')],
  ['depth.tif', msg('soundingsPanel.depthGeotiff')],
  ['hardness.tif', msg('soundingsPanel.hardnessGeotiff')],
  ['contours.geojson', msg('soundingsPanel.contoursGeojson')],
  ['features.geojson', msg('soundingsPanel.shapesGeojson')],
  ['marks.gpx', msg('soundingsPanel.marksGpxWaypoints')],
] as const;

const effect = ({ leftOut, changed, before, after }: CleanStep): string => {
  const parts = [
    leftOut ? msg('soundingsPanel.leftOut', { leftOut: grouped(leftOut) }) : '',
    changed ? msg('soundingsPanel.changed', { changed: grouped(changed) }) : '',
  ].filter(Boolean);
  if (parts.length && before !== null && after !== null && Math.abs(before - after) >= 0.005)
    parts.push(msg('soundingsPanel.passesMeetWithinM', { before: before, after: after }));
  return parts.join(', ');
};

interface SoundingsPanelProps {
  onImport: () => void;
  /** A build was queued. */
  onBuilding: (job: string) => void;
}

/** What the chart is made from: surveys, how they are cleaned and what that did, files in and out. */
export function SoundingsPanel({ onImport, onBuilding }: SoundingsPanelProps) {
  const { water, chart } = useWaterState();
  const surveys = useSurveys(water.id);
  const stored = water.cleaning ?? {};
  const [settings, setSettings] = useState<CleanSettings>(stored);
  const [typed, setTyped] = useState<Record<Figure['key'], string>>({
    transducer_m: stored.transducer_m ? String(stored.transducer_m) : '',
    assumed_sound_ms: stored.assumed_sound_ms ? String(stored.assumed_sound_ms) : '',
  });
  const [failed, setFailed] = useState<string | null>(null);
  const figure = (key: Figure['key']): number | undefined => (typed[key].trim() ? readNumber(typed[key]) : undefined);
  const wanted: CleanSettings = { ...settings, transducer_m: figure('transducer_m'), assumed_sound_ms: figure('assumed_sound_ms') };
  const changed = JSON.stringify(compact(wanted)) !== JSON.stringify(compact(stored));
  const apply = async (): Promise<void> => {
    setFailed(null);
    for (const { key, label, min, max } of Object.values(FIGURES)) {
      const value = wanted[key];
      if (value !== undefined && !(value >= min && value <= max)) {
        setFailed(msg('soundingsPanel.mustBeFromTo', { label, min, max }));
        return;
      }
    }
    try {
      onBuilding((await ask('PUT /waters/:water/cleaning', { water: water.id }, { body: compact(wanted) })).job);
    } catch (error) {
      setFailed(told(error));
    }
  };
  return (
    <>
      <div className="flex gap-2">
        <button type="button" className="btn btn-primary touch-target flex-1" onClick={onImport}>
          <Upload size={18} aria-hidden /> {msg('soundingsPanel.importFiles')}
        </button>
        <details className="dropdown dropdown-end">
          <summary className="btn touch-target">
            <Download size={18} aria-hidden /> {msg('soundingsPanel.export')}
          </summary>
          <ul className="menu dropdown-content z-10 mt-1 w-64 rounded-box border border-line bg-surface p-2 shadow">
            {EXPORTS.map(([file, words]) => (
              <li key={file}>
                <a className="min-h-11 items-center" href={`/api/waters/${water.id}/export/${file}`} download>
                  {words}
                </a>
              </li>
            ))}
            <li className="border-t border-line">
              <div className="flex flex-col items-start gap-1 hover:bg-transparent">
                <span>{msg('soundingsPanel.forOthers')}</span>
                <span className="flex gap-1">
                  {([250, 1000, 4000] as const).map((size) => (
                    <a
                      key={size}
                      className="btn touch-target px-3"
                      href={`/api/waters/${water.id}/export/shared.zip?blur=${size}`}
                      aria-label={msg('soundingsPanel.forOthersTo', { size: formatLength(size) })}
                      download
                    >
                      {formatLength(size)}
                    </a>
                  ))}
                </span>
                {water.cover.some(isOwnArea) && (
                  <a className="btn touch-target px-3" href={`/api/waters/${water.id}/export/shared.zip?blur=areas`} download>
                    {msg('soundingsPanel.myAreas')}
                  </a>
                )}
              </div>
            </li>
            <li className="border-t border-line">
              <a className="min-h-11 items-center" href="/api/backup" download>
                {msg('soundingsPanel.backupOfAllWaters')}
              </a>
            </li>
          </ul>
        </details>
      </div>
      <p className="num mt-2 text-sm text-mute">
        {msg('soundingsPanel.soundingsInTheChart', { soundings: grouped(chart?.soundings ?? 0) })} {formatLength(chart?.depth.size ?? 0)}
      </p>
      <ul className="num mt-1 text-sm" aria-label={msg('soundingsPanel.surveys')}>
        {surveys.data?.slice(0, 4).map((s) => (
          <li key={s.id} className="flex justify-between gap-2">
            <span className="truncate">{s.source}</span>
            <span className="whitespace-nowrap text-mute">
              {grouped(s.soundings)} · {dayInZone(new Date(s.imported_at), water.time_zone)}
            </span>
          </li>
        ))}
        {(surveys.data?.length ?? 0) > 4 && (
          <li className="text-mute">{msg('soundingsPanel.andEarlierSurveys', { data: surveys.data!.length - 4 })}</li>
        )}
      </ul>
      <h3 className="mt-3 font-bold">{msg('soundingsPanel.howTheyAreCleaned')}</h3>
      <ul className="divide-y divide-line">
        {chart?.cleaning.map((step) => {
          const key = SWITCHES[step.name];
          const asked = FIGURES[step.name];
          const words = [effect(step), asked && !step.on ? msg('soundingsPanel.notAppliedWithoutA') : step.words]
            .filter(Boolean)
            .join(' · ');
          return (
            <li key={step.name} className="py-1">
              <label className="flex min-h-9 items-center gap-2">
                {key ? (
                  <input
                    type="checkbox"
                    className="checkbox checkbox-sm"
                    checked={settings[key] !== false}
                    onChange={(e) => setSettings({ ...settings, [key]: e.target.checked })}
                  />
                ) : (
                  <span className="w-5" />
                )}
                <span className="font-semibold">{step.name[0].toUpperCase() + step.name.slice(1)}</span>
                {asked && (
                  <span className="ml-auto flex items-center gap-1">
                    <input
                      aria-label={asked.label}
                      inputMode="decimal"
                      placeholder={msg('soundingsPanel.none')}
                      className="input num h-9 w-20"
                      value={typed[asked.key]}
                      onChange={(e) => setTyped({ ...typed, [asked.key]: e.target.value })}
                    />
                    {asked.unit}
                  </span>
                )}
              </label>
              <p className="num pl-7 text-sm leading-tight text-mute">{words}</p>
            </li>
          );
        })}
      </ul>
      {failed && (
        <p role="alert" className="text-warn">
          {msg('soundingsPanel.notChanged', { failed })}
        </p>
      )}
      {changed && (
        <button type="button" className="btn btn-primary touch-target mt-2 w-full" onClick={() => void apply()}>
          {msg('soundingsPanel.rebuildTheChart')}
        </button>
      )}
    </>
  );
}

/** Settings without those that say what is so anyway. */
const compact = (settings: CleanSettings): CleanSettings =>
  Object.fromEntries(
    Object.entries(settings)
      .filter(([, v]) => v !== undefined && v !== null && v !== true)
      .sort(([a], [b]) => a.localeCompare(b)),
  );

import { useMemo, useState } from 'react';
import { findHalocline, findThermocline, ProfileError, tidyProfile, type Halocline, type ProfileSample } from '@restless-shoal/core/lake';
import { Dialog } from '../../parts/dialog';
import { useWaterState } from '../../state/water';
import { useUnits } from '../../state/units';
import { readProfile } from './read-profile';
import { brief as msg, decimal } from '../../words';

/** The halocline of a profile in words. */
const told = (salt: Halocline | null): string =>
  salt
    ? msg('profileForm.haloclineM', { top: salt.top, bottom: salt.bottom, above: decimal(salt.above, 0), below: decimal(salt.below, 0) })
    : msg('profileForm.noHalocline');

function Curve({ samples, salty }: { samples: ProfileSample[]; salty: boolean }) {
  const tidy = useMemo(() => {
    try {
      return tidyProfile(samples);
    } catch (error) {
      if (error instanceof ProfileError) return null;
      throw error;
    }
  }, [samples]);
  if (!tidy || tidy.length < 2) return <p className="p-4 text-sm text-mute">{msg('profileForm.theCurveDrawsAs')}</p>;
  const salt = salty ? findHalocline(tidy) : null;
  const line = salty ? salt : findThermocline(tidy);
  const deepest = tidy[tidy.length - 1].depth;
  const warmest = Math.max(...tidy.map((s) => s.temperature)) + 1;
  const coldest = Math.min(...tidy.map((s) => s.temperature)) - 1;
  const x = (t: number): number => 10 + ((t - coldest) / (warmest - coldest)) * 170;
  const y = (z: number): number => 10 + (z / deepest) * 220;
  return (
    <svg
      viewBox="0 0 200 260"
      className="w-full"
      role="img"
      aria-label={salty ? told(salt) : line ? msg('profileForm.thermoclineAtM', { depth: line.depth }) : msg('profileForm.noThermocline')}
    >
      {line && (
        <rect x="0" width="200" y={y(line.top)} height={Math.max(2, y(line.bottom) - y(line.top))} fill="var(--therm)" opacity=".25" />
      )}
      <path
        d={tidy.map((s, i) => `${i ? 'L' : 'M'}${x(s.temperature)} ${y(s.depth)}`).join('')}
        fill="none"
        stroke="var(--fish)"
        strokeWidth="3"
      />
      {tidy.map((s) => (
        <circle key={s.depth} cx={x(s.temperature)} cy={y(s.depth)} r="3.5" fill="var(--fish)" />
      ))}
      <text x="4" y="254" fontSize="13" fill="var(--ink)" data-testid="profile-line">
        {salty
          ? told(salt)
          : line
            ? msg('profileForm.thermoclineM', { top: line.top, bottom: line.bottom })
            : msg('profileForm.noThermocline')}
      </text>
    </svg>
  );
}

/** A probe profile, typed or pasted as a column. */
export function ProfileForm({ onSave, onClose }: { onSave: (samples: ProfileSample[]) => Promise<void>; onClose: () => void }) {
  const [text, setText] = useState('');
  const [failed, setFailed] = useState<string | null>(null);
  const units = useUnits();
  const { sort } = useWaterState();
  const salty = sort === 'coast';
  const profile = useMemo(() => readProfile(text, units, salty), [text, units, salty]);
  return (
    <Dialog title={msg('profileForm.addATemperatureProfile')} onClose={onClose}>
      <div className="grid grid-cols-2 gap-4">
        <label>
          <span className="text-sm text-mute">
            {msg(salty ? 'profileForm.aLineASaltyReading' : 'profileForm.aLineAReading', {
              depth: units.depth,
              temperature: units.temperature,
            })}
          </span>
          <textarea
            aria-label={msg('profileForm.readings')}
            className="textarea num mt-1 h-56 w-full"
            placeholder={
              salty
                ? units.temperature === '°C'
                  ? '0 14.2 12\n2 14.0 14\n4 12.1 29'
                  : '0 57.6 12\n7 57.2 14\n13 53.8 29'
                : units.temperature === '°C'
                  ? '0 19.4 9.1\n1 19.3 9.0\n2 19.1 8.9'
                  : '0 66.9 9.1\n1 66.7 9.0\n2 66.4 8.9'
            }
            value={text}
            onChange={(e) => setText(e.target.value)}
          />
        </label>
        <Curve samples={profile.samples} salty={salty} />
      </div>
      {[...profile.wrong, ...profile.slips].slice(0, 4).map((s) => (
        <p key={s} role="alert" className={`text-sm ${profile.wrong.includes(s) ? 'text-warn' : 'text-bait'}`}>
          {s}
        </p>
      ))}
      {failed && (
        <p role="alert" className="text-sm text-warn">
          {failed}
        </p>
      )}
      <button
        type="button"
        disabled={!profile.samples.length || profile.wrong.length > 0}
        className="btn btn-primary mt-3 h-12 w-full text-lg"
        onClick={() => void onSave(profile.samples).then(onClose, (error: Error) => setFailed(error.message))}
      >
        {msg('profileForm.logThisProfileReading', { samples: profile.samples.length })}
      </button>
    </Dialog>
  );
}

import { Link } from 'react-router';
import { setSonarSettings, useSonarSettings } from '../../state/sonar-settings';
import { useGear } from '../../state/use-gear';
import { deck as msg } from '../../words';

/** What the sonar is set to, chosen among the rigs of the gear: it goes with each mark from then on. */
export function SettingsChoice() {
  const rigs = (useGear().gear ?? []).filter((g) => g.kind === 'rig');
  const now = useSonarSettings();
  return (
    <div className="mt-3 border-t border-line pt-3">
      <h3 className="font-semibold">{msg('settingsChoice.settingsInUse')}</h3>
      {!rigs.length ? (
        <p className="text-sm text-mute">
          {msg('settingsChoice.noneYet')}{' '}
          <Link className="link" to="/logbook?show=gear">
            {msg('settingsChoice.gear')}
          </Link>
        </p>
      ) : (
        <>
          <div className="mt-1 flex flex-wrap gap-1.5" role="group" aria-label={msg('settingsChoice.settingsInUse')}>
            {rigs.map(({ id, name, settings }) => (
              <button
                key={id}
                type="button"
                aria-pressed={now?.rig === name}
                className={`btn touch-target px-3 ${now?.rig === name ? 'btn-primary' : ''}`}
                onClick={() => setSonarSettings(now?.rig === name ? null : { rig: name, settings })}
              >
                {name}
              </button>
            ))}
          </div>
          <p className="mt-1 text-sm text-mute">{now?.settings ?? msg('settingsChoice.goWithMarks')}</p>
        </>
      )}
    </div>
  );
}

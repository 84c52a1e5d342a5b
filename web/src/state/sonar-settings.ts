import { shared } from './shared';

/** The rig in use with its named settings, as it goes with each mark. */
export interface SonarSettings {
  rig: string;
  settings: string | null;
}

const AT = 'sonar settings';

function stored(): SonarSettings | null {
  try {
    const kept = JSON.parse(localStorage.getItem(AT) ?? 'null') as Partial<SonarSettings> | null;
    return typeof kept?.rig === 'string' ? { rig: kept.rig, settings: typeof kept.settings === 'string' ? kept.settings : null } : null;
  } catch {
    return null;
  }
}
const inUse = shared(stored());

/** Says what the sonar is set to from now on; null where nobody says. */
export function setSonarSettings(next: SonarSettings | null): void {
  try {
    localStorage.setItem(AT, JSON.stringify(next));
  } catch {
    // Full: it holds as long as the page is open.
  }
  inUse.set(next);
}

export const useSonarSettings = inUse.use;
export const sonarSettingsNow = inUse.now;

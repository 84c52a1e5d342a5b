import { sunHeight } from './light';

/** Low light, when light-shy fish come up: from the sun 6° below the horizon to 6° above it. */
export interface LightWindow {
  name: 'dawn' | 'dusk';
  from: Date;
  to: Date;
}

const MINUTE = 60_000;
const LOW = 6;

/** Dawn and dusk of the day about a moment (from 12 hours before to 12 hours after), to the minute. Empty in polar night or day. */
export function lightWindows(at: Date, latitude: number, longitude: number): LightWindow[] {
  const windows: LightWindow[] = [];
  const start = at.getTime() - 12 * 60 * MINUTE;
  let from: number | null = null;
  let rising = false;
  let before = sunHeight(new Date(start), latitude, longitude);
  for (let m = 1; m <= 24 * 60; m++) {
    const t = start + m * MINUTE;
    const h = sunHeight(new Date(t), latitude, longitude);
    const [was, is] = [Math.abs(before) <= LOW, Math.abs(h) <= LOW];
    if (!was && is) [from, rising] = [t, h > before];
    if (was && !is && from !== null) {
      windows.push({ name: rising ? 'dawn' : 'dusk', from: new Date(from), to: new Date(t) });
      from = null;
    }
    before = h;
  }
  return windows;
}

import { useCallback, useEffect, useState } from 'react';
import { useLocation } from 'react-router';

/** What somebody set by hand in the Strip; what is left out comes from the log. */
export interface WhatIf {
  at?: Date;
  surface?: number;
  secchi?: number;
  windFrom?: number;
  windSpeed?: number;
  level?: number;
  levelTrend?: number;
  /** How a river runs, m/s and towards, degrees true. */
  currentSpeed?: number;
  currentTo?: number;
  thermoclineSet?: { top: number; bottom: number };
}

/** Numbers of a what-if, by the name that each has in the address, with what it can be. */
const NUMBERS = [
  ['surface', 'if-surface', -2, 45],
  ['secchi', 'if-clarity', 0.01, 80],
  ['windFrom', 'if-wind-from', 0, 360],
  ['windSpeed', 'if-wind', 0, 100],
  ['level', 'if-level', -200, 200],
  ['levelTrend', 'if-level-trend', -50, 50],
  ['currentSpeed', 'if-current', 0, 20],
  ['currentTo', 'if-current-to', 0, 360],
] as const;
const AT = 'if-at';
const THERMOCLINE = 'if-thermocline';

/** Reads the what-if of an address. What makes no sense is passed over. */
export function readWhatIf(address: URLSearchParams): WhatIf {
  const out: WhatIf = {};
  const at = address.get(AT);
  if (at && /^\d{4}-\d\d-\d\dT\d\d:\d\dZ$/.test(at) && !Number.isNaN(Date.parse(at))) out.at = new Date(at);
  for (const [key, name, min, most] of NUMBERS) {
    const text = address.get(name);
    const value = Number(text);
    if (text?.trim() && value >= min && value <= most) out[key] = value;
  }
  const line = /^(\d+(?:\.\d+)?)-(\d+(?:\.\d+)?)$/.exec(address.get(THERMOCLINE) ?? '');
  if (line && Number(line[1]) < Number(line[2])) out.thermoclineSet = { top: Number(line[1]), bottom: Number(line[2]) };
  return out;
}

/** An address with a what-if in the place of the one it holds. */
export function writeWhatIf(address: URLSearchParams, whatIf: WhatIf): URLSearchParams {
  const out = new URLSearchParams(address);
  const put = (name: string, value: string | null): void => (value === null ? out.delete(name) : out.set(name, value));
  put(AT, whatIf.at ? `${whatIf.at.toISOString().slice(0, 16)}Z` : null);
  for (const [key, name] of NUMBERS) put(name, whatIf[key] === undefined ? null : String(Number(whatIf[key].toFixed(2))));
  const line = whatIf.thermoclineSet;
  put(THERMOCLINE, line ? `${Number(line.top.toFixed(2))}-${Number(line.bottom.toFixed(2))}` : null);
  return out;
}

/** How long the conditions stand still before the address says them, ms: while a finger drags it is not written. */
const SETTLED_MS = 350;

/** The what-if that the address holds when a water is opened, kept there as it changes. */
export function useWhatIf(): [WhatIf, (change: WhatIf | null) => void] {
  const { pathname, search } = useLocation();
  const [whatIf, setWhatIf] = useState<WhatIf>(() => readWhatIf(new URLSearchParams(search)));
  useEffect(() => {
    const write = (): void => {
      const { location, history } = window;
      const before = new URLSearchParams(location.search);
      const wanted = writeWhatIf(before, whatIf).toString();
      // In place: it is no step that Back would undo, and no view has to hear of it.
      if (wanted !== before.toString()) history.replaceState(history.state, '', `${location.pathname}${wanted ? `?${wanted}` : ''}`);
    };
    let timer = setTimeout(write, SETTLED_MS);
    // Back to an entry from before the change: the conditions stay as they are, so the address says them there, too.
    const wentBack = (): void => {
      clearTimeout(timer);
      timer = setTimeout(write, SETTLED_MS);
    };
    window.addEventListener('popstate', wentBack);
    return () => {
      clearTimeout(timer);
      window.removeEventListener('popstate', wentBack);
    };
  }, [whatIf, pathname, search]);
  const change = useCallback((more: WhatIf | null): void => setWhatIf((before) => (more === null ? {} : { ...before, ...more })), []);
  return [whatIf, change];
}

const KEY = 'device';

/** What this device calls itself in the history of changes: its kind, and four letters that tell it from others like it. */
export function deviceName(): string {
  let name = localStorage.getItem(KEY);
  if (!name) {
    const touch = matchMedia('(pointer: coarse)').matches;
    const small = Math.min(screen.width, screen.height);
    const kind = touch && small < 600 ? 'phone' : touch ? 'tablet' : 'computer';
    name = `${kind} ${crypto.getRandomValues(new Uint16Array(1))[0].toString(16).padStart(4, '0')}`;
    localStorage.setItem(KEY, name);
  }
  return name;
}

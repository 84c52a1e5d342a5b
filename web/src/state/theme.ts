import { shared } from './shared';

export type Theme = 'day' | 'night';

const theme = shared<Theme>(localStorage.getItem('theme') === 'night' ? 'night' : 'day');
document.documentElement.dataset.theme = theme.now();

export function setTheme(next: Theme): void {
  localStorage.setItem('theme', next);
  document.documentElement.dataset.theme = next;
  theme.set(next);
}

export const useTheme = theme.use;

/** A colour of the theme in use, by its CSS variable, as [red, green, blue]. */
export function themeColour(name: string): [number, number, number] {
  const hex = getComputedStyle(document.documentElement).getPropertyValue(name).trim();
  return [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16)) as [number, number, number];
}

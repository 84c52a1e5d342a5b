import { themeColour } from '../state/theme';

const FONT = '600 15px "Atkinson Hyperlegible Mono Variable", monospace';

/** A colour of the theme as a canvas takes it. */
export const canvasColour = (name: string): string => `rgb(${themeColour(name).join(' ')})`;

/** Text that stands on any echo. */
export function label(context: CanvasRenderingContext2D, text: string, x: number, y: number, align: CanvasTextAlign): void {
  context.font = FONT;
  context.textAlign = align;
  context.lineWidth = 4;
  context.lineJoin = 'round';
  context.strokeStyle = canvasColour('--surface');
  context.fillStyle = canvasColour('--ink');
  context.strokeText(text, x, y);
  context.fillText(text, x, y);
}

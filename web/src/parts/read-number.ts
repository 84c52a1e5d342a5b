/** A number as an angler types it, with point or comma; NaN where there is none. */
export const readNumber = (text: string): number => (text.trim() === '' ? NaN : Number(text.replace(',', '.')));

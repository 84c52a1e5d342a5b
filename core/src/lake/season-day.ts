/** Day of the year, moved by half a year on the southern side, so that 172 is always near midsummer. */
export function seasonDay(at: Date, latitude: number): number {
  const start = Date.UTC(at.getUTCFullYear(), 0, 1);
  const day = (at.getTime() - start) / 86400000;
  return latitude >= 0 ? day : (day + 182.6) % 365.25;
}

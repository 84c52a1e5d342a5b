const formats = new Map<string, Intl.DateTimeFormat>();
const offsets = new Map<string, number>();

/** How far a zone's clocks run before UTC at a moment, ms. @param zone IANA name or an offset such as +02:00 */
export function zoneOffset(at: number, zone: string): number {
  const fixed = /^(?:UTC|GMT)?([+-])(\d{1,2})(?::?(\d\d))?$/.exec(zone);
  if (fixed) return (fixed[1] === '-' ? -1 : 1) * (Number(fixed[2]) * 60 + Number(fixed[3] ?? 0)) * 60_000;
  // Clocks change on the quarter of an hour, nowhere more often: one look-up serves all moments of it.
  const key = `${zone} ${Math.floor(at / 900_000)}`;
  const known = offsets.get(key);
  if (known !== undefined) return known;
  let format = formats.get(zone);
  if (!format)
    formats.set(
      zone,
      (format = new Intl.DateTimeFormat('en-GB', {
        timeZone: zone,
        hourCycle: 'h23',
        year: 'numeric',
        month: '2-digit',
        day: '2-digit',
        hour: '2-digit',
        minute: '2-digit',
        second: '2-digit',
      })),
    );
  const p = Object.fromEntries(format.formatToParts(at).map(({ type, value }) => [type, Number(value)]));
  const offset = Date.UTC(p.year, p.month - 1, p.day, p.hour, p.minute, p.second) - Math.floor(at / 1000) * 1000;
  if (offsets.size > 50_000) offsets.clear();
  offsets.set(key, offset);
  return offset;
}

/** A moment by the clock of a zone as UTC, ms. @param local the clock's reading taken for UTC, ms */
export function localToUtc(local: number, zone: string): number {
  // What the clocks are ahead at about that moment, then at that moment: between the two they may have been changed.
  const about = local - zoneOffset(local, zone);
  return local - zoneOffset(about, zone);
}

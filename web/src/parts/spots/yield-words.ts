import type { SpotYield } from '../../api/queries';
import { decimal, listed, logbook as msg, term } from '../../words';
import { dayInZone } from '../format';

/** What a spot yielded, in a line. */
export function yieldWords({ stops, minutes, bites, landed, last }: SpotYield, zone: string | null): string {
  if (!stops) return msg('spots.notFishedYet');
  const fish = landed.reduce((n, [, k]) => n + k, 0);
  return [
    msg('spots.fished', { stops, hours: decimal(minutes / 60, 1) }),
    msg('spots.bites', { bites }),
    fish ? msg('tripRow.landed', { what: listed(landed.map(([species, n]) => (species ? `${n} ${term(species)}` : msg('tripRow.other', { n })))) }) : msg('tripRow.nothingLanded'), // prettier-ignore
    last && msg('spots.last', { day: dayInZone(new Date(last), zone) }),
  ]
    .filter(Boolean)
    .join(' · ');
}

import { useMemo } from 'react';
import { LEAST_SETTLED, settledTargets, signsOf, TargetOdds } from '@restless-shoal/core/patterns';
import { findSpecies, type SpeciesProfile } from '@restless-shoal/core/species';
import { useContacts, type StoredContact } from '../../api/queries';
import { capital, deck as msg, percent, term } from '../../words';

/** Species that are named; a sign is pointed out that tells so much more, bits. */
const NAMED = 3;
const WORTH_IT = 0.08;
/** Less likely ones are not named. */
const LEAST = 0.01;

/** What settled marks of this water say that a mark is likely to be, and which further look would tell most. */
export function LikelySpecies({
  water,
  contact,
  species,
  onSpecies,
}: {
  water: string;
  contact: StoredContact;
  species: SpeciesProfile[];
  /** Takes what it most likely is. @param odds 0–1 */
  onSpecies: (name: string, odds: number) => void;
}) {
  const contacts = useContacts(water).data;
  const odds = useMemo(() => {
    if (!contacts) return null;
    const settled = settledTargets(contacts, new Map(), (name) => findSpecies(name, species)?.name ?? name);
    return settled.length < LEAST_SETTLED ? null : new TargetOdds(settled);
  }, [contacts, species]);
  if (!odds || (contact.confirmed ?? 'none') !== 'none') return null;
  const signs = signsOf(contact);
  const [first, ...others] = odds.of(signs);
  const next = odds.settles(signs);
  const take = (name: string, p: number): void => onSpecies(name, Number(Math.min(0.98, p).toFixed(2)));
  return (
    <div className="my-1 border-l-4 border-line pl-3" role="group" aria-label={msg('likely.likely')}>
      <p className="text-sm text-mute">{msg('likely.bySettled', { n: odds.marks.length })}</p>
      <div className="mt-1 flex flex-wrap gap-1.5">
        {[first, ...others.slice(0, NAMED - 1).filter((o) => o.odds >= LEAST)].map(({ species: name, odds: p }) => (
          <button
            key={name}
            type="button"
            aria-pressed={contact.species === name}
            className={`btn touch-target num px-2.5 ${contact.species === name ? 'btn-primary' : ''}`}
            onClick={() => take(name, p)}
          >
            {capital(term(name))} {p > 0.99 ? `>${percent(0.99)}` : percent(p)}
          </button>
        ))}
      </div>
      {next && next.bits >= WORTH_IT && <p className="mt-1 text-sm">{msg(`likely.look.${next.sign}`)}</p>}
    </div>
  );
}

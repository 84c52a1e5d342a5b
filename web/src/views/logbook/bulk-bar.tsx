import { Trash2 } from 'lucide-react';
import { CONTACT_KINDS, type Row } from '@restless-shoal/core/logbook';
import type { SpeciesProfile } from '@restless-shoal/core/species';
import type { StoredContact } from '../../api/queries';
import { capital, logbook as msg, term } from '../../words';

/** How sure a species is that was said of many marks at once: what was on the screen looked like it. */
const SAID = 0.7;

/** What can be done with all marks that are selected. What does not swim has no species, and keeps none. */
export function BulkBar({
  chosen,
  species,
  onChange,
  onRemove,
}: {
  chosen: StoredContact[];
  species: SpeciesProfile[];
  onChange: (rows: StoredContact[], to: Row, words: string) => void;
  onRemove: (rows: StoredContact[], words: string) => void;
}) {
  const swim = chosen.filter((c) => c.kind === 'fish' || c.kind === 'bait');
  const name = (value: string): void => {
    const named = value === '-' ? null : value;
    onChange(swim, { species: named, confidence: named === null ? null : SAID }, msg('marksTable.speciesOfN', { n: swim.length }));
  };
  const be = (kind: string): void =>
    onChange(
      chosen,
      { kind, ...(kind === 'fish' || kind === 'bait' ? {} : { species: null, confidence: null }) },
      msg('marksTable.kindOfN', { n: chosen.length }),
    );
  return (
    <>
      <b className="num">{msg('marksTable.chosen', { n: chosen.length })}</b>
      <select
        aria-label={msg('marksTable.speciesOfAll')}
        className="select h-11 w-44"
        value=""
        disabled={!swim.length}
        onChange={(e) => name(e.target.value)}
      >
        <option value="">{msg('marksTable.setSpecies')}</option>
        <option value="-">{msg('marksTable.notKnown')}</option>
        {species.map((s) => (
          <option key={s.name} value={s.name}>
            {capital(term(s.name))}
          </option>
        ))}
      </select>
      <select aria-label={msg('marksTable.kindOfAll')} className="select h-11 w-36" value="" onChange={(e) => be(e.target.value)}>
        <option value="">{msg('marksTable.setKind')}</option>
        {CONTACT_KINDS.map((kind) => (
          <option key={kind} value={kind}>
            {capital(term(kind))}
          </option>
        ))}
      </select>
      <button
        type="button"
        className="btn touch-target px-3"
        onClick={() => onRemove(chosen, msg('marksTable.deletedN', { n: chosen.length }))}
      >
        <Trash2 size={18} aria-hidden /> {msg('marksTable.delete')}
      </button>
    </>
  );
}

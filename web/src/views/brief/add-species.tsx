import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { speciesLike } from '@restless-shoal/core/species';
import { ask } from '../../api/client';
import { Dialog } from '../../parts/dialog';
import { told } from '../../parts/told';
import { useWaterState } from '../../state/water';
import { brief as msg, term } from '../../words';

/** A species of one's own: its name, and the species whose needs it begins with. */
export function AddSpecies({ onAdded, onClose }: { onAdded: () => void; onClose: () => void }) {
  const { water, species, setSpecies } = useWaterState();
  const queries = useQueryClient();
  const [name, setName] = useState('');
  const [like, setLike] = useState(species.name);
  const [failed, setFailed] = useState<string | null>(null);
  const add = async (): Promise<void> => {
    const own = name.trim().toLowerCase();
    if (!own) return setFailed(msg('addSpecies.aNameIsNeeded'));
    const from = water.species.find((s) => s.name === like)!;
    const profile = speciesLike(from, own, msg('addSpecies.source', { like: term(like) }));
    try {
      await ask('PUT /waters/:water/species/:name', { water: water.id, name: own }, { body: profile });
      await queries.invalidateQueries({ queryKey: ['water', water.id] });
      setSpecies(own);
      onAdded();
    } catch (error) {
      setFailed(told(error));
    }
  };
  return (
    <Dialog title={msg('addSpecies.title')} onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void add();
        }}
      >
        <label className="flex flex-col gap-1">
          <span>{msg('addSpecies.name')}</span>
          <input className="input h-12" value={name} maxLength={100} onChange={(e) => setName(e.target.value)} />
        </label>
        <label className="flex flex-col gap-1">
          <span>{msg('addSpecies.like')}</span>
          <select className="select h-12" value={like} onChange={(e) => setLike(e.target.value)}>
            {water.species.map((s) => (
              <option key={s.name} value={s.name}>
                {term(s.name)}
              </option>
            ))}
          </select>
        </label>
        {failed && (
          <p role="alert" className="text-sm text-warn">
            {failed}
          </p>
        )}
        <button type="submit" className="btn btn-primary h-12 w-full text-lg">
          {msg('addSpecies.add')}
        </button>
      </form>
    </Dialog>
  );
}

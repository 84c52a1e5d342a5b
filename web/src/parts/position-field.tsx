import { useState } from 'react';
import { readPosition, type LatLon } from '@restless-shoal/core/geo';
import { parts as msg } from '../words';

/** What a position may look like, said where one could not be read. */
export const POSITIONS = msg('positionField.latitudeFirstOrN');

/** A position typed by hand. */
export function PositionField({ label, button, onPosition }: { label: string; button: string; onPosition: (position: LatLon) => void }) {
  const [text, setText] = useState('');
  const [wrong, setWrong] = useState(false);
  return (
    <form
      className="flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        const position = readPosition(text);
        setWrong(!position);
        if (position) onPosition(position);
      }}
    >
      <input
        aria-label={label}
        aria-invalid={wrong}
        placeholder={msg('positionField.latitudeLongitude')}
        className="input input-sm num h-11 min-w-40 flex-1"
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          setWrong(false);
        }}
      />
      <button type="submit" className="btn touch-target">
        {button}
      </button>
      {wrong && (
        <span role="alert" className="w-full text-sm text-warn">
          {POSITIONS}
        </span>
      )}
    </form>
  );
}

import { useState } from 'react';
import type { LatLon } from '@restless-shoal/core/geo';

/** Reads "58.4041 -31.2417", with a comma or space between, decimal degrees. Null when it is no position. */
export function readPosition(text: string): LatLon | null {
  const match = /^\s*([+-]?\d+(?:\.\d+)?)\s*°?\s*([NSns])?\s*[,;\s]\s*([+-]?\d+(?:\.\d+)?)\s*°?\s*([EWew])?\s*$/.exec(text);
  if (!match) return null;
  const latitude = Number(match[1]) * (/s/i.test(match[2] ?? '') ? -1 : 1);
  const longitude = Number(match[3]) * (/w/i.test(match[4] ?? '') ? -1 : 1);
  return Math.abs(latitude) <= 90 && Math.abs(longitude) <= 180 ? { latitude, longitude } : null;
}

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
        placeholder="latitude, longitude"
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
          Two decimal numbers, latitude first: 48.1853, -34.6127
        </span>
      )}
    </form>
  );
}

import { MapPin } from 'lucide-react';
import { useMemo, useState, type MouseEvent } from 'react';
import { outlineBox, outlineToRings, readPosition, type OutlineGeometry } from '@restless-shoal/core/geo';
import type { KnownPlace } from '@restless-shoal/core/tables';
import { POSITIONS } from '../position-field';
import { imports as msg } from '../../words';

const SIZE = 300;

/** Puts the place names of a table of catches on the map, each once: it is remembered. */
export function PlaceMatcher({
  unknown,
  outline,
  places,
  onPlaces,
}: {
  unknown: { name: string; rows: number }[];
  /** Of the water; null where nobody drew one yet. */
  outline: OutlineGeometry | null;
  places: KnownPlace[];
  onPlaces: (places: KnownPlace[]) => void;
}) {
  const [chosen, setChosen] = useState<string | null>(unknown[0]?.name ?? null);
  const [typed, setTyped] = useState('');
  const [wrong, setWrong] = useState(false);
  const map = useMemo(() => {
    if (!outline) return null;
    const [west, south, east, north] = outlineBox(outline);
    const narrow = Math.cos((((south + north) / 2) * Math.PI) / 180);
    const scale = (SIZE - 20) / Math.max((east - west) * narrow, north - south);
    const at = (longitude: number, latitude: number): [number, number] => [
      10 + (longitude - west) * narrow * scale,
      10 + (north - latitude) * scale,
    ];
    const back = (x: number, y: number) => ({ longitude: west + (x - 10) / narrow / scale, latitude: north - (y - 10) / scale });
    const path = outlineToRings(outline, (longitude, latitude) => at(longitude, latitude))
      .map((ring) => `M${ring.map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join('L')}Z`)
      .join('');
    return { at, back, path, width: 20 + (east - west) * narrow * scale, height: 20 + (north - south) * scale };
  }, [outline]);
  const all = [...unknown, ...places.filter((p) => !unknown.some((u) => u.name === p.name)).map((p) => ({ name: p.name, rows: 0 }))];
  const put = (position: { latitude: number; longitude: number }): void => {
    if (chosen === null) return;
    onPlaces([
      ...places.filter((p) => p.name !== chosen),
      { name: chosen, latitude: Number(position.latitude.toFixed(6)), longitude: Number(position.longitude.toFixed(6)) },
    ]);
    setTyped('');
    setChosen(unknown.find((u) => u.name !== chosen && !places.some((p) => p.name === u.name))?.name ?? null);
  };
  const tap = (event: MouseEvent<SVGSVGElement>): void => {
    const box = event.currentTarget.getBoundingClientRect();
    if (map) put(map.back(((event.clientX - box.left) * map.width) / box.width, ((event.clientY - box.top) * map.height) / box.height));
  };
  return (
    <section aria-label={msg('placeMatcher.whereThePlacesLie')} className="mt-2">
      <p className="font-semibold">{msg('placeMatcher.whereAreTheseSpots')}</p>
      <p className="text-sm text-mute">{msg('placeMatcher.chooseANameThen')}</p>
      <div className="mt-1 grid gap-3 sm:grid-cols-2">
        <ul className="max-h-72 overflow-y-auto" aria-label={msg('placeMatcher.placeNames')}>
          {all.map(({ name, rows }) => {
            const known = places.find((p) => p.name === name);
            return (
              <li key={name}>
                <button
                  type="button"
                  aria-pressed={chosen === name}
                  className={`flex min-h-11 w-full items-center justify-between gap-2 rounded-field px-2 text-left ${chosen === name ? 'bg-act font-bold text-act-ink' : 'hover:bg-ground'}`}
                  onClick={() => setChosen(name)}
                >
                  <span className="truncate">{name}</span>
                  <span className="num flex shrink-0 items-center gap-1 text-sm">
                    {rows > 0 && msg('placeMatcher.rows', { rows })}
                    {known && <MapPin size={16} aria-label={msg('placeMatcher.onTheMap')} />}
                  </span>
                </button>
              </li>
            );
          })}
        </ul>
        <div>
          {map ? (
            <svg
              viewBox={`0 0 ${map.width} ${map.height}`}
              className="w-full cursor-crosshair rounded-box border border-line bg-ground"
              role="application"
              aria-label={chosen === null ? msg('placeMatcher.mapOfTheWater') : msg('placeMatcher.tapWhereLies', { chosen })}
              onClick={tap}
            >
              <path d={map.path} fillRule="evenodd" fill="var(--w1)" stroke="var(--ink)" strokeWidth="1.2" />
              {places.map((p) => {
                const [x, y] = map.at(p.longitude, p.latitude);
                return (
                  <g key={p.name}>
                    <circle cx={x} cy={y} r="6" fill="var(--fish)" stroke="var(--surface)" strokeWidth="2" />
                    <text x={x + 9} y={y + 4} fontSize="12" fill="var(--ink)">
                      {p.name}
                    </text>
                  </g>
                );
              })}
            </svg>
          ) : (
            <p className="text-sm text-mute">{msg('placeMatcher.theWaterHasNo')}</p>
          )}
          <form
            className="mt-2 flex gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              event.stopPropagation();
              const position = readPosition(typed);
              setWrong(!position);
              if (position) put(position);
            }}
          >
            <input
              aria-label={msg('placeMatcher.positionOfThePlace')}
              className="input num h-11 min-w-0 flex-1"
              placeholder={msg('placeMatcher.latitudeLongitude')}
              value={typed}
              onChange={(e) => {
                setTyped(e.target.value);
                setWrong(false);
              }}
            />
            <button type="submit" className="btn touch-target px-3" disabled={chosen === null}>
              {msg('placeMatcher.set')}
            </button>
          </form>
          {wrong && (
            <p role="alert" className="text-sm text-warn">
              {POSITIONS}
            </p>
          )}
        </div>
      </div>
    </section>
  );
}

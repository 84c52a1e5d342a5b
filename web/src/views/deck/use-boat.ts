import { useCallback, useEffect, useState } from 'react';
import { bearing, distance, type LatLon } from '@restless-shoal/core/geo';

/** Where the boat is and where it goes. */
export interface Boat {
  position: LatLon;
  /** Degrees true. */
  course: number;
  /** m/s */
  speed: number;
  at: number;
  /** Accuracy the device claims, m; null when set by hand. */
  accuracy: number | null;
}

export interface BoatSource {
  boat: Boat | null;
  source: 'device' | 'hand';
  /** Why the device gives no position, in words. */
  trouble: string | null;
  setByHand: (position: LatLon, course: number, speed: number) => void;
  useDevice: () => void;
}

const TROUBLE: Record<number, string> = {
  1: 'This device may not tell its position: allow it in the browser.',
  2: 'This device has no position yet.',
  3: 'This device is slow to find its position.',
};

/** Course and speed from the fix before, where the device does not tell them. */
function moved(before: Boat | null, position: LatLon, at: number): { course: number; speed: number } {
  if (!before) return { course: 0, speed: 0 };
  const metres = distance(before.position, position);
  const seconds = (at - before.at) / 1000;
  if (metres < 1.5 || seconds <= 0) return { course: before.course, speed: seconds > 4 ? 0 : before.speed };
  return { course: bearing(before.position, position), speed: Math.min(30, metres / seconds) };
}

/** The boat's position: from the device, or set by hand where there is none. */
export function useBoat(): BoatSource {
  const [boat, setBoat] = useState<Boat | null>(null);
  const [source, setSource] = useState<'device' | 'hand'>('device');
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    if (source !== 'device') return;
    if (!('geolocation' in navigator)) {
      setTrouble('This browser has no position: set it by hand.');
      return;
    }
    const watch = navigator.geolocation.watchPosition(
      ({ coords }) => {
        setTrouble(null);
        const at = Date.now();
        setBoat((before) => {
          const position = { latitude: coords.latitude, longitude: coords.longitude };
          const guess = moved(before, position, at);
          return {
            position,
            course: coords.heading != null && !Number.isNaN(coords.heading) ? coords.heading : guess.course,
            speed: coords.speed != null && !Number.isNaN(coords.speed) ? coords.speed : guess.speed,
            at,
            accuracy: coords.accuracy,
          };
        });
      },
      (error) => setTrouble(TROUBLE[error.code] ?? error.message),
      { enableHighAccuracy: true, maximumAge: 1000, timeout: 20_000 },
    );
    return () => navigator.geolocation.clearWatch(watch);
  }, [source]);
  const setByHand = useCallback((position: LatLon, course: number, speed: number) => {
    setSource('hand');
    setTrouble(null);
    setBoat({ position, course, speed, at: Date.now(), accuracy: null });
  }, []);
  const useDevice = useCallback(() => {
    setBoat(null);
    setSource('device');
  }, []);
  return { boat, source, trouble, setByHand, useDevice };
}

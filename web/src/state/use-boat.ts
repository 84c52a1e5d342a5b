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
  source: 'device' | 'hand' | 'simulated';
  /** Why the device gives no position, in words. */
  trouble: string | null;
  setByHand: (position: LatLon, course: number, speed: number) => void;
  useDevice: () => void;
  /** A boat that searches the water in an S-pass, for practice: nothing of it is recorded. */
  simulate: () => void;
}

/** The simulated boat's speed, m/s, and how often it is seen, ms. */
const SIMULATED_SPEED = 3;
const SIMULATED_BEAT = 400;

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

/** @param simulated is asked for the simulated boat, by the metres it has gone; null where there is no water to go on */
export function useBoat(enabled: boolean, simulated: (travelled: number) => Pick<Boat, 'position' | 'course'> | null): BoatSource {
  const [boat, setBoat] = useState<Boat | null>(null);
  const [source, setSource] = useState<BoatSource['source']>('device');
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    if (source !== 'device' || !enabled) return;
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
  }, [source, enabled]);
  useEffect(() => {
    if (source !== 'simulated' || !enabled) return;
    let travelled = 0;
    const beat = setInterval(() => {
      const next = simulated(travelled);
      travelled += (SIMULATED_SPEED * SIMULATED_BEAT) / 1000;
      if (next) setBoat({ ...next, speed: SIMULATED_SPEED, at: Date.now(), accuracy: null });
    }, SIMULATED_BEAT);
    return () => clearInterval(beat);
  }, [source, enabled, simulated]);
  const setByHand = useCallback((position: LatLon, course: number, speed: number) => {
    setSource('hand');
    setTrouble(null);
    setBoat({ position, course, speed, at: Date.now(), accuracy: null });
  }, []);
  const useDevice = useCallback(() => {
    setBoat(null);
    setSource('device');
  }, []);
  const simulate = useCallback(() => {
    setTrouble(null);
    setSource('simulated');
  }, []);
  return { boat, source, trouble, setByHand, useDevice, simulate };
}

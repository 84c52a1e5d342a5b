import type { FeedState } from '@restless-shoal/core/contract';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { BoatNews } from '@restless-shoal/core/formats';
import { bearing, distance, type LatLon } from '@restless-shoal/core/geo';
import type { BoatFix } from '@restless-shoal/core/sonar';
import { deckNow } from '../api/clock';
import { ask } from '../api/client';
import { app as msg } from '../words';

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
  /** Depth under the boat as its sounder says, m; null where no sounder speaks. */
  depth: number | null;
}

export interface BoatSource {
  boat: Boat | null;
  source: 'device' | 'hand' | 'network';
  /** Where it was in the last ten minutes, in order of time. Changes in place. */
  fixes: BoatFix[];
  /** Whether what speaks on the boat's network is the simulated boat. */
  simulated: boolean;
  /** Why the device gives no position, in words. */
  trouble: string | null;
  setByHand: (position: LatLon, course: number, speed: number) => void;
  useDevice: () => void;
  /** Listens to the boat’s network through the server. */
  useNetwork: () => void;
}

/** How long the boat's network may be silent before it is asked why, ms. */
const QUIET_MS = 4000;

/** How long it is remembered where the boat was, ms. */
const REMEMBERED_MS = 600_000;

const TROUBLE: Record<number, string> = {
  1: msg('useBoat.thisDeviceMayNot'),
  2: msg('useBoat.thisDeviceHasNo'),
  3: msg('useBoat.thisDeviceIsSlow'),
};

/** Course and speed from the fix before, where the device does not tell them. */
function moved(before: Boat | null, position: LatLon, at: number): { course: number; speed: number } {
  if (!before) return { course: 0, speed: 0 };
  const metres = distance(before.position, position);
  const seconds = (at - before.at) / 1000;
  if (metres < 1.5 || seconds <= 0) return { course: before.course, speed: seconds > 4 ? 0 : before.speed };
  return { course: bearing(before.position, position), speed: Math.min(30, metres / seconds) };
}

/**
 * Where the boat is, from whatever knows it, while it is asked for.
 * @param onEcho is told what the sonar hears, where the boat's network sends that too; has to stay the same
 */
export function useBoat(enabled: boolean, onEcho: (line: string, at: number) => void): BoatSource {
  const [boat, setBoat] = useState<Boat | null>(null);
  const fixes = useRef<BoatFix[]>([]);
  const [feed, setFeed] = useState<Pick<FeedState, 'simulated'>>({ simulated: false });
  const [source, setSource] = useState<BoatSource['source']>(() => (localStorage.getItem('boat') === 'network' ? 'network' : 'device'));
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    if (source !== 'device' || !enabled) return;
    if (!('geolocation' in navigator)) {
      setTrouble(msg('useBoat.thisBrowserHasNo'));
      return;
    }
    let watch = 0;
    const take = ({ coords }: GeolocationPosition): void => {
      setTrouble(null);
      const at = deckNow();
      setBoat((before) => {
        const position = { latitude: coords.latitude, longitude: coords.longitude };
        const guess = moved(before, position, at);
        return {
          position,
          course: coords.heading != null && !Number.isNaN(coords.heading) ? coords.heading : guess.course,
          speed: coords.speed != null && !Number.isNaN(coords.speed) ? coords.speed : guess.speed,
          at,
          accuracy: coords.accuracy,
          depth: null,
        };
      });
    };
    const begin = (): void => {
      watch = navigator.geolocation.watchPosition(
        take,
        (error) => {
          setTrouble(TROUBLE[error.code] ?? error.message);
          if (error.code !== error.TIMEOUT) return;
          // Some devices say no more after they once were too slow: asked anew, they do.
          navigator.geolocation.clearWatch(watch);
          begin();
        },
        { enableHighAccuracy: true, maximumAge: 1000, timeout: 20_000 },
      );
    };
    begin();
    return () => navigator.geolocation.clearWatch(watch);
  }, [source, enabled]);
  useEffect(() => {
    if (!boat) {
      fixes.current.length = 0;
      return;
    }
    const { current } = fixes;
    if ((current.at(-1)?.at ?? 0) >= boat.at) return;
    current.push({ position: boat.position, course: boat.course, speed: boat.speed, at: boat.at });
    if (current[0].at < boat.at - 1.2 * REMEMBERED_MS)
      current.splice(
        0,
        current.findIndex((f) => f.at >= boat.at - REMEMBERED_MS),
      );
  }, [boat]);
  useEffect(() => {
    if (source !== 'network' || !enabled) return;
    const news = new EventSource('/api/feed/news?echoes');
    news.addEventListener('echo', ({ data, lastEventId }: MessageEvent<string>) => onEcho(data, Number(lastEventId)));
    // Anew with each connection: another boat may be on the line.
    news.onopen = () => ask('GET /feed', {}).then(setFeed, () => undefined);
    news.onmessage = ({ data }: MessageEvent<string>) => {
      const said = JSON.parse(data) as BoatNews & { at: number };
      const { latitude, longitude, course, heading, speed, depth } = said;
      setTrouble(null);
      setBoat((before) => {
        const guess = moved(before, { latitude, longitude }, said.at);
        return {
          position: { latitude, longitude },
          // A boat that stands has no course; its compass still says where the bow points.
          course: heading ?? course ?? guess.course,
          speed: speed ?? guess.speed,
          at: said.at,
          accuracy: null,
          depth,
        };
      });
    };
    let quiet = true;
    const heard = (): void => void (quiet = false);
    news.addEventListener('message', heard);
    const beat = setInterval(() => {
      if (!quiet) {
        quiet = true;
        return;
      }
      // Nothing came: the server knows why.
      ask('GET /feed', {}).then(
        (said) => {
          const { state, trouble: why, host, port } = said;
          setFeed(said);
          setTrouble(
            state === 'off'
              ? msg('useBoat.theBoatsNetworkIs')
              : state === 'failing'
                ? msg('useBoat.theBoatsNetwork', { host: host ?? '', port: port ?? '', why: why ?? '' })
                : msg('useBoat.theBoatsNetworkSends'),
          );
        },
        () => setTrouble(msg('useBoat.theServerCannotBe')),
      );
    }, QUIET_MS);
    return () => {
      news.close();
      clearInterval(beat);
    };
  }, [source, enabled, onEcho]);
  const setByHand = useCallback((position: LatLon, course: number, speed: number) => {
    setSource('hand');
    setTrouble(null);
    setBoat({ position, course, speed, at: deckNow(), accuracy: null, depth: null });
  }, []);
  const useDevice = useCallback(() => {
    localStorage.removeItem('boat');
    setBoat(null);
    setSource('device');
  }, []);
  const useNetwork = useCallback(() => {
    localStorage.setItem('boat', 'network');
    void ask('GET /feed', {}).then(setFeed, () => undefined);
    setBoat(null);
    setTrouble(null);
    setSource('network');
  }, []);
  const listening = source === 'network';
  return {
    boat,
    source,
    fixes: fixes.current,
    simulated: listening && feed.simulated,
    trouble,
    setByHand,
    useDevice,
    useNetwork,
  };
}

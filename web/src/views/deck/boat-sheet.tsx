import { useEffect, useState } from 'react';
import type { LatLon } from '@restless-shoal/core/geo';
import { getJson, sendJson, type ApiError } from '../../api/client';
import { Dialog } from '../../parts/dialog';
import { readPosition } from '../../parts/position-field';
import type { BoatSource, FeedState } from '../../state/use-boat';

/** Where the boat's position comes from: this device, the boat's network, or set by hand. */
export function BoatSheet({ source, onClose }: { source: BoatSource; onClose: () => void }) {
  const { boat } = source;
  const [position, setPosition] = useState(boat ? `${boat.position.latitude.toFixed(6)}, ${boat.position.longitude.toFixed(6)}` : '');
  const [course, setCourse] = useState(String(Math.round(boat?.course ?? 0)));
  const [speed, setSpeed] = useState(boat ? boat.speed.toFixed(1) : '0');
  const [wrong, setWrong] = useState<string | null>(null);
  const save = (): void => {
    const at: LatLon | null = readPosition(position);
    const [c, s] = [Number(course.replace(',', '.')), Number(speed.replace(',', '.'))];
    if (!at) return setWrong('The position needs two decimal numbers, latitude first: 48.1853, -34.6127');
    if (!(c >= 0 && c <= 360)) return setWrong('The course must be from 0 to 360 degrees');
    if (!(s >= 0 && s <= 30)) return setWrong('The speed must be from 0 to 30 m/s');
    source.setByHand(at, c, s);
    onClose();
  };
  const [network, setNetwork] = useState('');
  const [busy, setBusy] = useState(false);
  useEffect(() => {
    getJson<FeedState>('/feed').then(
      ({ host, port }) => host && setNetwork((typed) => typed || `${host}:${port}`),
      () => undefined,
    );
  }, []);
  const listen = async (): Promise<void> => {
    const [, host, port] = /^\s*(.+?)\s*:\s*(\d+)\s*$/.exec(network) ?? [];
    if (!host) return setWrong('The boat’s network needs a host and a port: 192.168.4.1:10110');
    setBusy(true);
    try {
      await sendJson('PUT', '/feed', { host, port: Number(port) });
      source.useNetwork();
      onClose();
    } catch (error) {
      setWrong(`Boat’s network: ${(error as ApiError).field ?? ''} ${(error as Error).message}`);
    } finally {
      setBusy(false);
    }
  };
  const row = 'grid grid-cols-[6rem_1fr_4rem] items-center gap-3 py-1.5';
  return (
    <Dialog title="Where the boat is" onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          save();
        }}
      >
        <label className={row}>
          <span>Position</span>
          <input
            className="input num h-11 w-full"
            placeholder="latitude, longitude"
            value={position}
            onChange={(e) => setPosition(e.target.value)}
          />
          <span className="text-mute">degrees</span>
        </label>
        <label className={row}>
          <span>Course</span>
          <input inputMode="decimal" className="input num h-11" value={course} onChange={(e) => setCourse(e.target.value)} />
          <span className="text-mute">° true</span>
        </label>
        <label className={row}>
          <span>Speed</span>
          <input inputMode="decimal" className="input num h-11" value={speed} onChange={(e) => setSpeed(e.target.value)} />
          <span className="text-mute">m/s</span>
        </label>
        {wrong && (
          <p role="alert" className="text-warn">
            {wrong}
          </p>
        )}
        <div className="mt-3 border-t border-line pt-3">
          <label className="grid grid-cols-[6rem_1fr] items-center gap-3 py-1.5">
            <span>Boat’s network</span>
            <input
              className="input num h-11 w-full"
              placeholder="192.168.4.1:10110"
              value={network}
              onChange={(e) => setNetwork(e.target.value)}
            />
          </label>
          <p className="mb-2 text-sm text-mute">Host and port where it speaks NMEA 0183 over TCP.</p>
          <button type="button" className="btn touch-target w-full" disabled={busy} onClick={() => void listen()}>
            Listen to the boat’s network
          </button>
        </div>
        <p className="mt-3 text-sm text-mute">
          The simulated boat searches the water in an S-pass and sounds it, for practice: its track is not recorded.
        </p>
        <div className="mt-4 flex flex-wrap justify-end gap-2">
          <button
            type="button"
            className="btn touch-target"
            onClick={() => {
              source.simulate();
              onClose();
            }}
          >
            Simulated boat
          </button>
          <button
            type="button"
            className="btn touch-target"
            onClick={() => {
              source.useDevice();
              onClose();
            }}
          >
            Use this device’s position
          </button>
          <button type="submit" className="btn btn-primary touch-target">
            Set by hand
          </button>
        </div>
      </form>
    </Dialog>
  );
}

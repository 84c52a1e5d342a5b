import { useEffect, useState } from 'react';
import type { Chart } from '@restless-shoal/core/chart';
import { readPosition, type LatLon } from '@restless-shoal/core/geo';
import { ask } from '../../api/client';
import { readNumber } from '../../parts/read-number';
import { Dialog } from '../../parts/dialog';
import { POSITIONS } from '../../parts/position-field';
import type { BoatSource } from '../../state/use-boat';
import { practicePass } from './practice-pass';
import { RigFields } from './rig-fields';
import { SettingsChoice } from './settings-choice';
import { deck as msg } from '../../words';
import { told } from '../../parts/told';

/** The simulated boat's speed, m/s, and what can hang beside it. */
const PRACTICE_SPEED = 2;
const COMPANIONS = [
  ['lure', msg('boatSheet.aLureUnderThe')],
  ['weight', msg('boatSheet.aWeightOnA')],
  ['wash', msg('boatSheet.anotherBoatsWash')],
] as const;

/** Where the boat's position comes from: this device, the boat's network, or set by hand. */
export function BoatSheet({
  source,
  water,
  chart,
  thermocline,
  onClose,
}: {
  source: BoatSource;
  water: string;
  chart: Chart | null;
  /** As the day has it, for the simulated boat's sonar. */
  thermocline: { top: number; bottom: number } | null;
  onClose: () => void;
}) {
  const { boat } = source;
  const [position, setPosition] = useState(boat ? `${boat.position.latitude.toFixed(6)}, ${boat.position.longitude.toFixed(6)}` : '');
  const [course, setCourse] = useState(String(Math.round(boat?.course ?? 0)));
  const [speed, setSpeed] = useState(boat ? boat.speed.toFixed(1) : '0');
  const [wrong, setWrong] = useState<{ of: 'network' | 'simulated' | 'hand'; words: string } | null>(null);
  /** What went wrong, beside the button that was pressed. */
  const said = (of: NonNullable<typeof wrong>['of']) =>
    wrong?.of === of && (
      <p role="alert" className="mb-1 text-warn">
        {wrong.words}
      </p>
    );
  const save = (): void => {
    const at: LatLon | null = readPosition(position);
    const [c, s] = [readNumber(course), readNumber(speed)];
    const bad = (words: string): void => setWrong({ of: 'hand', words });
    if (!at) return bad(msg('boatSheet.thePositionCouldNot', { positions: POSITIONS }));
    if (!(c >= 0 && c <= 360)) return bad(msg('boatSheet.theCourseMustBe'));
    if (!(s >= 0 && s <= 30)) return bad(msg('boatSheet.theSpeedMustBe'));
    source.setByHand(at, c, s);
    onClose();
  };
  const [network, setNetwork] = useState('');
  const [echoPort, setEchoPort] = useState('');
  const [companions, setCompanions] = useState<(typeof COMPANIONS)[number][0][]>([]);
  const [busy, setBusy] = useState(false);
  useEffect(() => {
    ask('GET /feed', {}).then(
      ({ host, port, echoPort, simulated }) => {
        if (!host || simulated) return;
        setNetwork((typed) => typed || `${host}:${port}`);
        if (echoPort) setEchoPort((typed) => typed || String(echoPort));
      },
      () => undefined,
    );
  }, []);
  const listen = async (): Promise<void> => {
    const [, host, port] = /^\s*(.+?)\s*:\s*(\d+)\s*$/.exec(network) ?? [];
    const bad = (words: string): void => setWrong({ of: 'network', words });
    if (!host) return bad(msg('boatSheet.theBoatsNetworkNeeds'));
    if (echoPort.trim() !== '' && !/^\s*\d+\s*$/.test(echoPort)) return bad(msg('boatSheet.thePortOfThe'));
    const body = { host, port: Number(port), echoPort: echoPort.trim() === '' ? null : Number(echoPort) };
    await connect(() => ask('PUT /feed', {}, { body }), 'network');
  };
  const connect = async (network: () => Promise<unknown>, of: 'network' | 'simulated'): Promise<void> => {
    setBusy(true);
    try {
      await network();
      source.useNetwork();
      onClose();
    } catch (error) {
      setWrong({ of, words: told(error) });
    } finally {
      setBusy(false);
    }
  };
  const pass = chart && practicePass(chart);
  const simulate = (): void =>
    void (
      pass &&
      connect(
        () => ask('POST /waters/:water/simulated-boat', { water }, { body: { ...pass, speed: PRACTICE_SPEED, companions, thermocline } }),
        'simulated',
      )
    );
  const row = 'grid grid-cols-[6rem_1fr_4rem] items-center gap-3 py-1.5';
  return (
    <Dialog title={msg('boatSheet.whereTheBoatIs')} onClose={onClose}>
      <p className="text-sm text-mute">{msg('boatSheet.positionSourceMarksAre')}</p>
      <button
        type="button"
        className="btn touch-target mt-2 w-full"
        onClick={() => {
          source.useDevice();
          onClose();
        }}
      >
        {msg('boatSheet.useThisDevicesPosition')}
      </button>
      <div className="mt-3 border-t border-line pt-3">
        <label className="grid grid-cols-[6rem_1fr] items-center gap-3 py-1.5">
          <span>{msg('boatSheet.boatsNetwork')}</span>
          <input
            className="input num h-11 w-full"
            placeholder="192.168.4.1:10110"
            value={network}
            onChange={(e) => setNetwork(e.target.value)}
          />
        </label>
        <label className="grid grid-cols-[6rem_1fr] items-center gap-3 py-1.5">
          <span>{msg('boatSheet.echoesPort')}</span>
          <input
            className="input num h-11 w-28"
            placeholder={msg('boatSheet.none')}
            value={echoPort}
            onChange={(e) => setEchoPort(e.target.value)}
          />
        </label>
        <p className="mb-2 text-sm text-mute">{msg('boatSheet.hostAndPortOf')}</p>
        {said('network')}
        <button type="button" className="btn touch-target w-full" disabled={busy} onClick={() => void listen()}>
          {msg('boatSheet.listenToTheBoats')}
        </button>
      </div>
      {pass && (
        <div className="mt-3 border-t border-line pt-3">
          <p className="text-sm text-mute">{msg('boatSheet.forPracticeABoat')}</p>
          <div className="flex flex-wrap gap-x-4">
            {COMPANIONS.map(([what, words]) => (
              <label key={what} className="touch-target flex items-center gap-2 text-sm">
                <input
                  type="checkbox"
                  className="checkbox"
                  checked={companions.includes(what)}
                  onChange={({ target }) => setCompanions(target.checked ? [...companions, what] : companions.filter((c) => c !== what))}
                />
                {words}
              </label>
            ))}
          </div>
          {said('simulated')}
          <button type="button" className="btn touch-target w-full" disabled={busy} onClick={simulate}>
            {msg('boatSheet.simulatedBoat')}
          </button>
        </div>
      )}
      <form
        className="mt-3 border-t border-line pt-3"
        onSubmit={(event) => {
          event.preventDefault();
          save();
        }}
      >
        <label className="grid grid-cols-[6rem_1fr] items-center gap-3 py-1.5">
          <span>{msg('boatSheet.position')}</span>
          <input
            className="input num h-11 w-full"
            placeholder={msg('boatSheet.latitudeLongitude')}
            value={position}
            onChange={(e) => setPosition(e.target.value)}
          />
        </label>
        <label className={row}>
          <span>{msg('boatSheet.course')}</span>
          <input inputMode="decimal" className="input num h-11" value={course} onChange={(e) => setCourse(e.target.value)} />
          <span className="text-mute">{msg('boatSheet.true')}</span>
        </label>
        <label className={row}>
          <span>{msg('boatSheet.speed')}</span>
          <input inputMode="decimal" className="input num h-11" value={speed} onChange={(e) => setSpeed(e.target.value)} />
          <span className="text-mute">m/s</span>
        </label>
        {said('hand')}
        <button type="submit" className="btn touch-target mt-1 w-full">
          {msg('boatSheet.setByHand')}
        </button>
      </form>
      <SettingsChoice />
      <RigFields />
    </Dialog>
  );
}

import { expect } from 'chai';
import { existsSync, readFileSync } from 'node:fs';
import { createServer, type Server, type Socket } from 'node:net';
import { join } from 'node:path';
import { nmeaSentence, readEcho, writeEcho, type Echo, type SounderEcho } from '@restless-shoal/core/formats';
import { Raster } from '@restless-shoal/core/geo';
import type { Chart } from '@restless-shoal/core/chart';
import { bottomOf, type SceneTarget } from '@restless-shoal/core/sonar';
import { SimulatedSonar, waterScene } from '../src/devices';
import { Feed } from '../src/feed';
import { until } from '../../e2e/browser';
import { temporaryFolder } from '../../e2e/harness';

/** Something on the boat that sends whatever it is told to. */
class Talker {
  private server: Server | null = null;
  private sockets: Socket[] = [];
  port = 0;
  async listen(port = 0): Promise<void> {
    const server = (this.server = createServer((socket) => {
      socket.on('error', () => undefined);
      this.sockets.push(socket);
    }));
    await new Promise<void>((done) => server.listen(port, '127.0.0.1', done));
    this.port = (server.address() as { port: number }).port;
  }
  get heard(): boolean {
    return this.sockets.some((s) => !s.destroyed);
  }
  say(text: string): void {
    for (const socket of this.sockets) socket.write(text);
  }
  async hangUp(): Promise<void> {
    this.sockets.splice(0).forEach((s) => s.destroy());
    await new Promise<void>((done) => (this.server ? this.server.close(() => done()) : done()));
  }
}

/** A sounder's word: until it came, or two seconds have passed, positions wait for it. */
const depth = nmeaSentence('SDDPT,6.20,0.40,');
const rmc = (minutes: string): string => nmeaSentence(`GPRMC,060708.00,A,48${minutes},N,03436.0000,W,3.9,90.0,020526,,,A`);

describe('the boat’s network', () => {
  const data = temporaryFolder();
  const file = join(data.path, 'feed.json');
  const [boat, gateway] = [new Talker(), new Talker()];
  let feed: Feed;
  const latitudes: number[] = [];
  before(async () => {
    await boat.listen();
    await gateway.listen();
    feed = new Feed(file);
    feed.onNews(({ latitude }) => latitudes.push(latitude));
  });
  after(async () => {
    feed.stop();
    await Promise.all([boat.hangUp(), gateway.hangUp()]);
    data.remove();
  });

  it('is off until somebody says where it is, and then kept from one start to the next', async () => {
    expect(feed.state).to.deep.include({ state: 'off', trouble: null });
    expect(existsSync(file)).to.equal(false);
    feed.listenTo({ host: '127.0.0.1', port: boat.port, echoPort: gateway.port });
    await until(async () => feed.state.state === 'connected' && feed.state.echoes.state === 'connected' && boat.heard, 'it was connected');
    expect(JSON.parse(readFileSync(file, 'utf8'))).to.deep.equal({ host: '127.0.0.1', port: boat.port, echoPort: gateway.port });
    const again = new Feed(file);
    expect(again.state).to.deep.include({ state: 'connecting', port: boat.port });
    again.stop();
  });
  it('is read across packets, whatever ends a line; what is no sentence is counted', async () => {
    const sentence = rmc('12.0000');
    boat.say(`${depth}\r\n${sentence.slice(0, 20)}`);
    await new Promise((done) => setTimeout(done, 60));
    boat.say(`${sentence.slice(20)}\r\n${rmc('12.6000')}\n${rmc('13.2000')}\r\n`);
    await until(async () => latitudes.length === 3, 'three positions came');
    expect(latitudes.map((l) => Number(l.toFixed(4)))).to.deep.equal([48.2, 48.21, 48.22]);
    boat.say(`hello\r\n${rmc('14.0000').replace('48', '49')}\r\n${'x'.repeat(9000)}\r\n${rmc('15.0000')}\r\n`);
    await until(async () => latitudes.length === 4, 'the good one behind them came');
    expect(latitudes[3]).to.be.closeTo(48.25, 1e-9);
    expect(feed.state.unreadable).to.be.within(2, 4);
  });
  it('says why nothing comes, and dials again until it does', async () => {
    const { port } = boat;
    await boat.hangUp();
    await until(async () => feed.state.state === 'failing', 'it noticed');
    expect(feed.state.trouble).to.be.oneOf(['the other side hung up', 'nothing listens there']);
    await boat.listen(port);
    await until(async () => feed.state.state === 'connected' && boat.heard, 'it was connected again');
    boat.say(`${depth}\r\n${rmc('18.0000')}\r\n`);
    await until(async () => latitudes.at(-1)! > 48.29, 'a position came');
  });
  it('hands echoes on as they came, and counts what it cannot read, with the reason', async () => {
    const heard: string[] = [];
    const end = feed.onEcho((line, at) => {
      expect(Math.abs(at - Date.now())).to.be.below(5000);
      heard.push(line);
    });
    const echo: Echo = { view: 'sounder', range: 12, transducerDepth: 0.4, beam: 20, levels: Uint8Array.from([1, 2, 3]) };
    gateway.say(`${writeEcho(echo)}\n{"view":"sounder","range_m":-1,"levels":"AAAA"}\n${writeEcho(echo)}\r\n`);
    await until(async () => heard.length === 2, 'both came');
    expect(readEcho(heard[1])).to.deep.equal(echo);
    expect(feed.state.echoes).to.deep.include({ unreadable: 1, why: 'range_m must be from 0.5 to 2000' });
    end();
    // Nobody looks: nothing is read, nor counted.
    gateway.say('nonsense\n');
    await new Promise((done) => setTimeout(done, 100));
    expect(feed.state.echoes.unreadable).to.equal(1);
  });
});

describe('the simulated sonar', () => {
  const [width, height] = [60, 60];
  const raster = (value: number): Raster => new Raster(0, 0, 5, width, height, new Float32Array(width * height).fill(value));
  const chart = { depth: raster(9), hardness: raster(0.7), cells: { count: 0 } } as unknown as Chart;
  const plane = { toMetric: ({ latitude, longitude }: { latitude: number; longitude: number }) => [longitude, latitude] } as never;
  const fish: SceneTarget = { id: 'fish 0', kind: 'fish', x: 150, y: 150, depth: 4, radius: 0, half: 0, strength: -30 };
  const cover = [
    { kind: 'cover', cover: 'brush', name: null, height_m: 2, placed_on: null, geometry: { type: 'Point', coordinates: [180, 150] } },
  ] as never;
  const scene = waterScene(chart, plane, cover, null, [fish], 1);
  const heard = (sonar: SimulatedSonar, x: number, times = 3): Echo[] =>
    Array.from({ length: times }, (_, i) => sonar.next({ x, y: 150, heading: 90 }, i / 15))
      .flat()
      .map((line) => readEcho(line) as Echo);

  it('stands timber of the cover on the bottom, and finds things by place, across its buckets', () => {
    const [brush] = scene.near(180, 150, 1);
    expect(brush).to.deep.include({ kind: 'timber', x: 180, y: 150, depth: 8, half: 1 });
    for (const [x, n] of [
      [150, 1],
      [165, 2],
      [250, 0],
    ])
      expect(scene.near(x, 150, 20), `at ${x}`).to.have.length(n);
  });
  it('speaks of all three views, ranged so that the bottom is in the picture', () => {
    const echoes = heard(new SimulatedSonar(scene, []), 150);
    expect(echoes.map((e) => e.view).sort()).to.deep.equal(['forward-facing', ...Array(3).fill('side-scan'), ...Array(3).fill('sounder')]);
    for (const e of echoes) if (e.view === 'sounder') expect(bottomOf(e)).to.be.closeTo(9, 0.2);
  });
  it('hangs a lure and a weight under the boat where they are asked for, and not on the side-scan', () => {
    const loud = (sonar: SimulatedSonar, depth: number): boolean => {
      const e = heard(sonar, 100, 1)[0] as SounderEcho;
      const i = Math.round(((depth - 0.4) / e.range) * e.levels.length);
      return Math.max(...e.levels.subarray(i - 3, i + 4)) > 120;
    };
    expect(loud(new SimulatedSonar(scene, ['weight']), 5.6)).to.equal(true);
    expect(loud(new SimulatedSonar(scene, []), 5.6)).to.equal(false);
    expect(loud(new SimulatedSonar(scene, ['lure']), 3.6)).to.equal(true);
  });
});

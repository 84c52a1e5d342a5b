import { expect } from 'chai';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import exifr from 'exifr';
import sharp from 'sharp';
import type { StoredGear, TripDetail } from '@restless-shoal/core/contract';
import { newId } from '@restless-shoal/core/logbook';
import { isBare, keepPicture } from '../src/photos';
import { ask, command, serve, temporaryFolder, type RunningServer } from '../../e2e/harness';
import { phonePicture } from '../../e2e/phone-picture';

// Pictures and gear: kept as they have to be, and the same wherever they go.

const [data, elsewhere] = [temporaryFolder(), temporaryFolder()];
const files = mkdtempSync(join(tmpdir(), 'shoal-photos-'));
let server: RunningServer;
const [water, trip, fish, photo] = [newId(), newId(), newId(), newId()];
const at = { latitude: 48.2, longitude: -34.6 };
const CAUGHT = '2026-05-02T07:10:00Z';

const fromPhone = (): Promise<Buffer> => phonePicture('2026:05:02 07:10:00');

const send = (path: string, method: string, body?: object): Promise<Response> =>
  fetch(`${server.url}/api${path}`, { method, headers: { 'Content-Type': 'application/json' }, body: body && JSON.stringify(body) });
const done = async (answer: Promise<Response>): Promise<unknown> => {
  const response = await answer;
  const text = await response.text();
  expect(response.ok, text).to.equal(true);
  return JSON.parse(text);
};
const sendPicture = (id: string, bytes: Uint8Array<ArrayBuffer>): Promise<Response> =>
  fetch(`${server.url}/api/trips/${trip}/photos/${id}/picture`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/octet-stream' },
    body: bytes,
  });
const pictureAt = async (path: string): Promise<Buffer> => {
  const response = await fetch(`${server.url}/api${path}`);
  expect(response.status).to.equal(200);
  return Buffer.from(await response.arrayBuffer());
};

before(async () => {
  server = await serve(data.path);
  await done(send(`/waters/${water}`, 'PUT', { name: 'Photo mere', kind: 'lake', ...at }));
  await done(send(`/waters/${water}/trips/${trip}`, 'PUT', { trip: 'spring', start: '2026-05-02T05:00:00Z', end: '2026-05-02T11:30:00Z', bag: 5, least_length_m: 0.35, weigh_in: '2026-05-02T11:00:00Z' })); // prettier-ignore
  await done(send(`/trips/${trip}/responses/${fish}`, 'PUT', { time: CAUGHT, response: 'landed', species: 'pike', angler: 'A client' }));
});
after(async () => {
  await server.stop();
  [data, elsewhere].forEach((folder) => folder.remove());
  rmSync(files, { recursive: true, force: true });
});

describe('a picture', () => {
  it('is turned upright and keeps nothing of where, when and with what it was taken; what is so already stays byte for byte', async () => {
    const taken = await fromPhone();
    expect(await exifr.gps(taken)).to.deep.include({ latitude: 48.2, longitude: -34.6 });
    expect(isBare(taken)).to.equal(false);
    const kept = await keepPicture(taken);
    expect([kept.width, kept.height]).to.deep.equal([40, 60]);
    expect(await exifr.parse(kept.picture)).to.equal(undefined);
    expect(isBare(kept.picture)).to.equal(true);
    // What lay at the upper left lies at the upper right once the phone is held upright.
    const { data: pixels, info } = await sharp(kept.picture).raw().toBuffer({ resolveWithObject: true });
    const [right, left] = [info.channels * (info.width - 8 + 8 * info.width), info.channels * (4 + 8 * info.width)];
    expect(pixels[right], 'red of the yellow').to.be.above(200);
    expect(pixels[left], 'red of the blue').to.be.below(80);
    expect((await keepPicture(kept.picture)).picture.equals(kept.picture)).to.equal(true);
  });

  it('with something hidden behind its end, or in a comment, is written anew without it', async () => {
    const { picture } = await keepPicture(await fromPhone());
    const behind = Buffer.concat([picture, Buffer.from('48.2 -34.6')]);
    const comment = Buffer.concat([
      picture.subarray(0, 2),
      Buffer.from([0xff, 0xfe, 0, 12]),
      Buffer.from('48.2 -34.6'),
      picture.subarray(2),
    ]);
    for (const told of [behind, comment]) expect((await keepPicture(told)).picture.includes('48.2')).to.equal(false);
  });

  it('may be PNG or WebP; anything else is refused in words', async () => {
    const drawn = sharp({ create: { width: 30, height: 20, channels: 4, background: '#ffffff00' } });
    for (const bytes of [await drawn.clone().png().toBuffer(), await drawn.clone().webp().toBuffer()])
      expect((await sharp((await keepPicture(bytes)).picture).metadata()).format).to.equal('jpeg');
    const { picture } = await keepPicture(await fromPhone());
    for (const bytes of [Buffer.from('GIF89a'), Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>'), picture.subarray(0, 200)]) {
      const refused = await keepPicture(bytes).then(
        () => null,
        (error: { problem?: { code: string } }) => error.problem?.code,
      );
      expect(refused).to.equal('picture-unreadable');
    }
  });
});

describe('photos of a trip', () => {
  it('are records of it, with a picture that comes by itself', async () => {
    const row = { photo, time: CAUGHT, shows: 'fish', response_time: CAUGHT, caption: 'By the reeds' };
    expect(await done(send(`/trips/${trip}/photos/${photo}`, 'PUT', row))).to.deep.equal({ id: photo, done: 'added' });
    expect((await sendPicture(newId(), new Uint8Array(await fromPhone()))).status).to.equal(404);
    expect((await sendPicture(photo, new Uint8Array(30 * 1024 * 1024))).status).to.equal(413);
    expect((await sendPicture(photo, new TextEncoder().encode('no picture'))).status).to.equal(400);
    expect(await done(sendPicture(photo, new Uint8Array(await fromPhone())))).to.deep.include({ width: 40, height: 60 });
    const { photos } = await ask<TripDetail>(server, `/trips/${trip}`);
    expect(photos).to.have.length(1);
    expect(photos[0]).to.deep.include({ id: photo, shows: 'fish', caption: 'By the reeds', width: 40, height: 60 });
    expect(await exifr.parse(await pictureAt(`/trips/${trip}/photos/${photo}/picture`))).to.equal(undefined);
    expect((await sharp(await pictureAt(`/trips/${trip}/photos/${photo}/picture?size=small`)).metadata()).format).to.equal('jpeg');
  });

  it('stay with the fish that they show when its time is put right, and go and come back with undo', async () => {
    const later = '2026-05-02T07:25:00Z';
    await done(send(`/trips/${trip}/responses/${fish}`, 'PUT', { time: later, response: 'landed', species: 'pike', angler: 'A client' }));
    const shown = async (): Promise<TripDetail['photos']> => (await ask<TripDetail>(server, `/trips/${trip}`)).photos;
    expect(Date.parse((await shown())[0].response_time!)).to.equal(Date.parse(later));
    await done(send(`/trips/${trip}/photos/${photo}`, 'DELETE'));
    expect(await shown()).to.deep.equal([]);
    expect((await ask<{ items: { what: string; id: string }[] }>(server, '/trash')).items.map((i) => [i.what, i.id])).to.deep.include(['photo', photo]); // prettier-ignore
    await done(send(`/trips/${trip}/photos/${photo}/restore`, 'POST', {}));
    expect((await shown())[0].bytes).to.be.above(0);
  });
});

describe('gear', () => {
  const [lure, boat] = [newId(), newId()];
  it('is kept by kind and name, once each, and comes back out of the trash', async () => {
    await done(send(`/gear/${lure}`, 'PUT', { kind: 'lure', name: 'Silver spoon', mass_g: 18, sink_ms: 0.6 }));
    await done(send(`/gear/${boat}`, 'PUT', { kind: 'boat', name: 'Silver spoon', draught_m: 0.4 }));
    const twice = await send(`/gear/${newId()}`, 'PUT', { kind: 'lure', name: 'silver SPOON' });
    expect([twice.status, ((await twice.json()) as { code: string }).code]).to.deep.equal([409, 'gear-taken']);
    await done(send(`/gear/${boat}`, 'DELETE'));
    expect((await ask<StoredGear[]>(server, '/gear')).map((g) => g.kind)).to.deep.equal(['lure']);
    await done(send(`/gear/${boat}/restore`, 'POST', {}));
    expect((await ask<StoredGear[]>(server, '/gear')).map((g) => g.kind)).to.deep.equal(['boat', 'lure']);
  });
});

describe('export, import, export', () => {
  const folderOf = (path: string): Record<string, string> =>
    Object.fromEntries(
      readdirSync(path, { withFileTypes: true }).flatMap((f): [string, string][] =>
        f.isDirectory()
          ? Object.entries(folderOf(join(path, f.name))).map(([name, bytes]) => [`${f.name}/${name}`, bytes])
          : [[f.name, readFileSync(join(path, f.name), 'base64')]],
      ),
    );

  it('is the same bytes with photos, spots and gear in it, as a folder and as a ZIP', async function () {
    this.timeout(120_000);
    await done(send(`/waters/${water}/spots/${newId()}`, 'PUT', { name: 'Old jetty', ...at, notes: 'from the west, in wind' }));
    const zip = Buffer.from(await (await fetch(`${server.url}/api/waters/${water}/export/water.zip`)).arrayBuffer());
    const [out, again] = ['out', 'again'].map((name) => join(files, name));
    expect((await command('export', '--water', 'Photo mere', '--to', out, '--data', data.path)).code).to.equal(0);
    const first = folderOf(out);
    expect(Object.keys(first)).to.include.members(['photos.csv', 'spots.csv', 'gear.csv', `photos/${photo}.jpg`]);
    const into = await command('import', '--water', 'Photo mere', '--create', out, '--data', elsewhere.path);
    expect(into.code, into.text).to.equal(0);
    expect((await command('export', '--water', 'Photo mere', '--to', again, '--data', elsewhere.path)).code).to.equal(0);
    expect(folderOf(again)).to.deep.equal(first);
    // What is there already is not added once more; a ZIP holds the same.
    writeFileSync(join(files, 'water.zip'), zip);
    const once = await command('import', '--water', 'Photo mere', join(files, 'water.zip'), '--data', elsewhere.path);
    expect(once.code, once.text).to.equal(0);
    rmSync(again, { recursive: true });
    expect((await command('export', '--water', 'Photo mere', '--to', again, '--data', elsewhere.path)).code).to.equal(0);
    expect(folderOf(again)).to.deep.equal(first);
  });

  it('a backup holds the pictures, and gives them back', async function () {
    this.timeout(120_000);
    const path = join(files, 'backup.zip');
    expect((await command('backup', path, '--data', data.path)).code).to.equal(0);
    const restored = temporaryFolder();
    try {
      const put = await command('restore', path, '--data', restored.path);
      expect(put.code, put.text).to.equal(0);
      const second = join(files, 'second.zip');
      expect((await command('backup', second, '--data', restored.path)).code).to.equal(0);
      expect(readFileSync(second).equals(readFileSync(path))).to.equal(true);
    } finally {
      restored.remove();
    }
  });
});

import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { destination, distance, type LatLon } from '@restless-shoal/core/geo';
import { makeLogbook } from '@restless-shoal/demo';
import { DESK, openPage, PHONE, until } from './browser';
import { ask, runningTrip } from './harness';
import { loggedWater } from './logged-water';

const SEED = 8;
let water: string;
/** Pings a second, and pixels that each has in the picture. */
const [PINGS, PING_PX] = [15, 2];

const served = loggedWater(SEED, 4);
before(async () => {
  [{ id: water }] = await ask<{ id: string }[]>(served(), '/waters');
});

interface Contact extends LatLon {
  id: string;
  kind: string;
  view: string;
  top_m: number | null;
  bottom_m: number | null;
  time: string;
}
interface Truth {
  position: LatLon;
  targets: ({ id: string; kind: string; depth: number } & LatLon)[];
}
interface Log {
  contacts: Contact[];
  stops: { outcome: string | null; start: string; end: string }[];
  responses: { response: string }[];
}

/** A crown 8.8 m down with deeper water all round it, and what is put there: metres along the first line, and to starboard of it. */
const planted = (() => {
  const { world } = makeLogbook({ seed: SEED, trips: 1 });
  const hump = world.humps.find((h) => world.depth(h.x, h.y) > 8.5 && world.depth(h.x, h.y) < 9.2 && world.depth(h.x - 80, h.y) > 12)!;
  const start = world.toLatLon(hump.x - 85, hump.y);
  const at = (along: number, starboard: number): LatLon => destination(destination(start, 90, along), 180, starboard);
  return {
    start,
    ahead: { kind: 'fish', ...at(24, 0), depth: 4.5 },
    bait: { kind: 'bait', ...at(50, 0), depth: 7.6, radius: 2, height: 1.4 },
    below: { kind: 'fish', ...at(72, 0), depth: 7.2 },
    starboard: { kind: 'fish', ...at(103, 6), depth: 4.5, length: 0.8 },
    port: { kind: 'fish', ...at(106, -6), depth: 4.5, length: 0.8 },
    brush: { kind: 'timber', ...at(150, 0), depth: world.depth(hump.x + 65, hump.y) - 1.7, radius: 2, height: 3.4 },
  };
})();

for (const [words, size, speed] of [
  ['at 390×844 and 2 m/s', PHONE, 2],
  ['at 1280×800 and 6 m/s', DESK, 6],
] as const)
  describe(`an S-pass over a hump ${words}`, () => {
    let page: Page;
    let touches = 0;
    const press = async (name: string | RegExp): Promise<void> => {
      await page.getByRole('button', { name }).click();
      touches++;
    };
    const truth = (): Promise<Truth> => ask(served(), `/feed/truth?at=${Date.now()}`);
    const along = async (): Promise<number> => distance(planted.start, (await truth()).position);
    const sail = async (metresPerSecond: number): Promise<void> => {
      const { start, ...things } = planted;
      // The side-scan's beam is a hand wide there: where pings come seldom, on a busy machine, it passes a lone fish by.
      const beside = [things.starboard, things.port].flatMap((one) => [90, 270].map((way) => ({ ...one, ...destination(one, way, 0.5) })));
      const answer = await ask(served(), `/waters/${water}/simulated-boat`, 'POST', {
        ...start,
        course: 90,
        speed: metresPerSecond,
        length: 170,
        spacing: 15,
        companions: ['lure', 'weight', 'wash'],
        targets: [...Object.values(things), ...beside],
      });
      expect(answer).to.include({ simulated: true });
    };
    const picture = () => page.getByRole('application', { name: /^What the/ });
    /** Where the strongest echo of a part of the picture is, as the eye finds it; shares of its width and height; null where nothing is drawn yet. */
    const strongest = (from: [x: number, y: number], to: [x: number, y: number]): Promise<{ x: number; y: number } | null> =>
      picture().evaluate(
        (canvas: HTMLCanvasElement, [a, b]) => {
          const { width, height } = canvas;
          const { data } = canvas.getContext('2d')!.getImageData(0, 0, width, height);
          // By day stronger is darker; brackets and cursor are red.
          const dark = Float32Array.from({ length: width * height }, (_, k) =>
            data[4 * k] > data[4 * k + 2] + 40 ? 0 : 255 - data[4 * k + 1],
          );
          let best = { x: 0, y: 0, dark: -1, n: 0 };
          for (let y = Math.round(a[1] * height) + 2; y < b[1] * height - 2; y++)
            for (let x = Math.round(a[0] * width) + 2; x < b[0] * width - 2; x++) {
              let sum = 0;
              for (let dy = -1; dy <= 1; dy++) for (let dx = -1; dx <= 1; dx++) sum += dark[(y + dy) * width + x + dx];
              // Of a patch that is as dark all over its middle is meant.
              if (sum > best.dark + 2) best = { x, y, dark: sum, n: 1 };
              else if (sum > best.dark - 2 && Math.hypot(x - best.x / best.n, y - best.y / best.n) < 40)
                best = { ...best, x: best.x + x, y: best.y + y, n: best.n + 1 };
            }
          return best.n ? { x: best.x / best.n / width, y: best.y / best.n / height } : null;
        },
        [from, to] as const,
      );
    const touch = async (at: { x: number; y: number } | null): Promise<void> => {
      expect(at, 'an echo in that part of the picture').not.to.equal(null);
      const box = (await picture().boundingBox())!;
      await page.mouse.click(box.x + at!.x * box.width, box.y + at!.y * box.height);
      touches++;
    };
    /** Share of the picture's height at a depth. */
    const down = async (depth: number): Promise<number> => {
      const [, from, to] = /([\d.]+) to ([\d.]+) m deep/.exec((await picture().getAttribute('aria-label'))!)!.map(Number);
      return (depth - from) / (to - from);
    };
    const seen = new Set<string>();
    /** The mark made last, once there are so many on the server. */
    const fresh = async (n: number): Promise<Contact> => {
      await until(async () => (await runningTrip<Log>(served())).contacts.length === n, `mark ${n} was on the server`);
      const contact = (await runningTrip<Log>(served())).contacts.find((c) => !seen.has(c.id))!;
      seen.add(contact.id);
      return contact;
    };
    /** Which view is in use; a press that is no part of a mark. */
    const view = (name: string): Promise<unknown> => page.getByLabel('Sonar view in use').selectOption(name);
    const pause = (): Promise<void> => page.getByRole('button', { name: 'Pause the picture' }).click();
    const within = (contact: Contact, target: LatLon & { depth: number }, what: string): void => {
      expect(distance(contact, target), `${what}, m from where it is`).to.be.below(3);
      expect((contact.top_m! + contact.bottom_m!) / 2, `${what}, depth`).to.be.closeTo(target.depth, 0.7);
    };

    let opened: Awaited<ReturnType<typeof openPage>> | null = null;
    /** A fresh page, no trip running. */
    const begin = async (): Promise<void> => {
      await opened?.context.close();
      const { trips } = await ask<{ trips: { id: string; end: string | null }[] }>(served(), `/waters/${water}/log`);
      for (const { id, end } of trips) if (end === null) await ask(served(), `/waters/${water}/trips/${id}`, 'DELETE');
      await ask(served(), '/feed', 'DELETE');
      seen.clear();
      opened = await openPage(`${served().url}/deck`, { size });
      ({ page } = opened);
    };

    it('shows what is there; each is marked from the picture within 3 m of where it truly is, in three touches at most', async function () {
      // The boat does not wait for a machine that is busy with something else: then it goes again, from the beginning.
      this.retries(2);
      await begin();
      await page.getByRole('button', { name: 'Start the trip' }).click();
      await sail(0);
      const { port, echoPort } = await ask<{ port: number; echoPort: number }>(served(), '/feed');
      await page.getByRole('button', { name: 'Set the position by hand' }).click();
      await page.getByLabel('Boat’s network').fill(`127.0.0.1:${port}`);
      await page.getByLabel('Echoes, port').fill(String(echoPort));
      await page.getByRole('button', { name: 'Listen to the boat’s network' }).click();
      await view('forward-facing');
      await page.getByRole('button', { name: 'Picture' }).click();
      await sail(speed);
      const fish = async (n: number, target: LatLon & { depth: number }, what: string): Promise<void> => {
        await press('Mark 1 fish here');
        expect(touches, `touches for the fish ${what}`).to.be.at.most(3);
        touches = 0;
        within(await fresh(n), target, what);
      };

      await until(async () => (await along()) > 4, 'it was on its way');
      touches = 0;
      await pause();
      await touch(await strongest([0.24, await down(2.5)], [0.95, await down(6.5)]));
      await fish(1, planted.ahead, 'ahead');

      await view('sounder');
      await page.getByRole('radio', { name: 'Bait' }).click();
      await until(async () => (await along()) > 50 + 3 + speed * 0.5, 'the bait was astern');
      await pause();
      await touch(await strongest([0.3, await down(7)], [0.99, await down(8.1)]));
      await press('Mark bait here');
      within(await fresh(2), planted.bait, 'bait');
      await page.getByRole('button', { name: 'Resume the picture' }).click();

      await page.getByRole('radio', { name: 'Fish' }).click();
      await until(async () => (await along()) > 72 + 3, 'the fish below was astern');
      await pause();
      touches = 0;
      await touch(await strongest([0.3, await down(6.4)], [0.99, await down(7.6)]));
      await fish(3, planted.below, 'below');

      // Side-scan: how deep they are is set on the Column beforehand, or read from the shadow.
      await page.getByRole('button', { name: 'Pad' }).click();
      const column = page.getByRole('slider', { name: 'How deep' });
      await column.focus();
      while (Number(await column.getAttribute('aria-valuenow')) > 4.55) await page.keyboard.press('ArrowUp');
      await view('side-scan');
      await page.getByRole('button', { name: 'Picture' }).click();
      // Below the figures at the upper edge also where a busy machine sends fewer pings, and still in the picture.
      await until(async () => (await along()) > 106 + speed * (size === PHONE ? 2.2 : 5), 'the fish aside were astern');
      await pause();
      for (const [n, side, target] of [
        [4, 'starboard', planted.starboard],
        [5, 'port', planted.port],
      ] as const) {
        touches = 0;
        // In the dark of the water column: nearer by slant than even the hump's crown.
        await touch(await strongest(side === 'port' ? [0.345, 0.15] : [0.54, 0.15], side === 'port' ? [0.46, 0.97] : [0.655, 0.97]));
        const says = page.getByTestId('picture-says');
        await says.getByText(new RegExp(`to ${side}, 4\\.\\d m deep as on the Column`)).waitFor();
        await fish(n, target, side);
      }

      await view('sounder');
      await page.getByRole('radio', { name: 'Cover' }).click();
      await until(async () => (await along()) > 150 + 4 + speed * 0.3, 'the brush was astern');
      await pause();
      // No farther back than it can lie: the hump's slope comes through the same depths.
      const back = ((((await along()) - 150 + 6) / speed) * PINGS * PING_PX) / (size === PHONE ? 378 : 578);
      await touch(
        await strongest([Math.max(0, 1 - back), await down(planted.brush.depth - 0.9)], [0.99, await down(planted.brush.depth - 0.2)]),
      );
      await press('Mark cover here');
      expect(distance(await fresh(6), planted.brush), 'brush').to.be.below(3);
      await page.getByRole('button', { name: 'Resume the picture' }).click();
      const { contacts } = await runningTrip<Log>(served());
      expect(contacts.map((c) => `${c.kind} ${c.view}`)).to.have.members([
        'fish forward-facing',
        'bait sounder',
        'fish sounder',
        'fish side-scan',
        'fish side-scan',
        'cover sounder',
      ]);
      expect(opened!.errors).to.deep.equal([]);
    });

    it('leaves the lure, the weight on its wire and another boat’s wash out once they were named', async () => {
      const says = page.getByTestId('picture-says');
      const name = async (depth: [number, number], what: string, left: string): Promise<void> => {
        // Where it is now: at the right edge.
        await until(async () => {
          const echo = await strongest([0.9, await down(depth[0])], [0.995, await down(depth[1])]);
          if (!echo) return false;
          await touch(echo);
          return page.getByRole('button', { name: 'No fish' }).isVisible();
        }, `${left} was touched`);
        await page.getByRole('button', { name: 'No fish' }).click();
        await page.getByRole('button', { name: what }).click();
        await says.getByRole('button', { name: `${left} left out` }).waitFor();
      };
      await name([2.9, 4.3], 'My lure', 'lure');
      await name([5.4, 5.8], 'A weight', 'weight');
      // There for half of each minute.
      await name([0.5, 1.4], 'A wash', 'wash');
      const counted = async (): Promise<number> => {
        const [, singles, masses] = /(\d+) echo(?:es)?, (\d+) cloud/.exec((await says.textContent())!)!.map(Number);
        return singles + masses;
      };
      // A turn of the wash later nothing new is counted but what swims: the lines beside hold none.
      const before = await counted();
      await page.waitForTimeout(12_000);
      expect(await counted(), 'new echoes taken for fish').to.be.at.most(before);
      // Once it is out of the water its like counts again.
      await says.getByRole('button', { name: 'weight left out' }).click();
      await until(async () => (await counted()) > before - 1, 'the weight counted as an echo again');
      expect(await says.getByRole('button', { name: 'weight left out' }).count()).to.equal(0);
    });

    it('goes on with two blanks and a stop with two responses and a landing', async () => {
      await page.getByRole('button', { name: 'Pad' }).click();
      await page.getByRole('radio', { name: 'Fish' }).click();
      for (const n of [1, 2]) {
        await page.getByRole('button', { name: 'Nothing here', exact: true }).click();
        await until(async () => (await runningTrip<Log>(served())).stops.length === n, `blank ${n} was on the server`);
        // Another one, not the second tap of a double one.
        await page.waitForTimeout(700);
      }
      await page.getByRole('button', { name: 'Fish here' }).click();
      for (const response of ['Followed', 'Struck', 'Landed']) {
        await page.getByRole('button', { name: response, exact: true }).click();
        await page.getByText(`Logged: ${response.toLowerCase()}`).waitFor();
      }
      await page.getByRole('button', { name: 'Leave', exact: true }).click();
      await page.getByRole('dialog').getByRole('button', { name: 'Fish landed' }).click();
      await until(async () => (await runningTrip<Log>(served())).stops.every((s) => s.outcome !== null), 'the stop had its outcome');
      const { stops, responses } = await runningTrip<Log>(served());
      expect(stops.map((s) => s.outcome)).to.have.members(['nothing', 'nothing', 'fish']);
      expect(responses.map((r) => r.response)).to.have.members(['followed', 'struck', 'landed']);
      // Practice: deleted, and out of the log.
      await page.getByRole('button', { name: 'End trip' }).click();
      await page.getByText('The boat is simulated').waitFor();
      await page.getByRole('button', { name: 'Delete trip' }).click();
      await page.getByText(/The trip goes, with \d+ marks?/).waitFor();
      await page.getByRole('button', { name: 'Delete trip', exact: true }).click();
      await page.getByRole('button', { name: 'Start the trip' }).waitFor();
      await until(
        async () => (await ask<{ trips: { end: string | null }[] }>(served(), `/waters/${water}/log`)).trips.every((t) => t.end !== null),
        'the trip was gone',
      );
      await ask(served(), '/feed', 'DELETE');
      await page.context().close();
    });
  });

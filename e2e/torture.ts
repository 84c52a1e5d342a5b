import { execFileSync, spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { newId } from '@restless-shoal/core/logbook';
import { seeded } from '@restless-shoal/core/numbers';
import { checkBackup } from '../server/src/backup';
import { SimulatedDeck } from './decks';
import { ask, command, main, serve, temporaryFolder, type RunningServer } from './harness';

/** What is done to an installation that is in use. */
export interface Torture {
  /** Where its data lies. */
  data: string;
  /** Where files go that are none of its own: backups, what is imported. */
  files: string;
  decks: number;
  marks: number;
  kills: number;
  /** Mean time between two kills, ms. */
  every: number;
  seed: number;
  /** How often the disk is filled, and for how long, ms; only where `data` is a disk of its own. */
  fills?: { times: number; ms: number };
  /** Whether the clock of server and database is put back and forth. */
  clock?: boolean;
  say?: (line: string) => void;
}

/** What was promised while it lasted, and what of it was kept. */
export interface Survived {
  kills: Record<Victim, number>;
  marks: { logged: number; lost: number; doubled: number };
  /** Rows of imports that said they were done, and rows that are there. */
  imported: { imports: number; rows: number; there: number };
  /** Backups that said they were done; those that cannot be read, or lack what was acknowledged before. */
  backups: { made: number; broken: number; short: number };
  /** Restores that were begun in an empty folder, and those that ended with anything else than the whole backup. */
  restores: { done: number; wrong: number };
  /** Files with a finished name that are not whole, or half made ones that nobody will remove. */
  left: string[];
  /** Answers that were neither done nor "try again" nor "disk full". */
  odd: string[];
  /** The longest time that it did not answer, s; without those that the disk was full. */
  longestDown: number;
  /** Whether "disk full" was said, and it went on by itself afterwards. */
  saidFull: boolean;
}

/** Whatever of it is ended; "start" is a server that has just been started. */
export type Victim = 'server' | 'database' | 'backend' | 'both' | 'start' | 'command';

/** Soundings that one import brings. */
const ROWS = 1500;

const SHOAL = join(dirname(main), '../..');

const postmaster = (data: string): number => {
  try {
    return Number(readFileSync(join(data, 'postgresql/postmaster.pid'), 'utf8').split('\n')[0]);
  } catch {
    return 0;
  }
};

function childrenOf(pid: number): number[] {
  const found: number[] = [];
  for (const name of readdirSync('/proc'))
    if (/^\d+$/.test(name))
      try {
        if (new RegExp(`^PPid:\\t${pid}$`, 'm').test(readFileSync(`/proc/${name}/status`, 'utf8'))) found.push(Number(name));
      } catch {
        // It is gone already.
      }
  return found;
}

function kill(pid: number | undefined): boolean {
  try {
    return pid !== undefined && pid > 1 && process.kill(pid, 'SIGKILL');
  } catch {
    return false;
  }
}

/** Soundings of a survey that no other import holds. */
function soundings(k: number): string {
  const rows = ['time,latitude,longitude,depth_m'];
  const start = Date.UTC(2026, 3, 1) + k * 86_400_000;
  for (let i = 0; i < ROWS; i++) {
    const [x, y] = [i % 50, Math.floor(i / 50)];
    const time = new Date(start + i * 2000).toISOString();
    rows.push(`${time},${(48.2 + y * 2e-4 + k * 1e-6).toFixed(7)},${(-34.6 + x * 3e-4).toFixed(7)},${(3 + ((x + y) % 7)).toFixed(1)}`);
  }
  return `${rows.join('\n')}\n`;
}

/** A logbook in use, and everything done to it at once. */
class Trial {
  private readonly random: () => number;
  private readonly water = newId();
  private server!: RunningServer;
  private port = '0';
  private over = false;
  /** Since when it has not answered, ms; null while it does. */
  private down: number | null = null;
  private full = false;
  private commands = new Set<number>();
  private readonly decks: SimulatedDeck[];
  private readonly clockFile: string;
  readonly result: Survived = {
    kills: { server: 0, database: 0, backend: 0, both: 0, start: 0, command: 0 },
    marks: { logged: 0, lost: 0, doubled: 0 },
    imported: { imports: 0, rows: 0, there: 0 },
    backups: { made: 0, broken: 0, short: 0 },
    restores: { done: 0, wrong: 0 },
    left: [],
    odd: [],
    longestDown: 0,
    saidFull: false,
  };
  private readonly backups: { path: string; atLeast: number }[] = [];

  constructor(private readonly how: Torture) {
    this.random = seeded(how.seed);
    this.clockFile = join(how.files, 'clock');
    this.decks = Array.from({ length: how.decks }, (_, i) => new SimulatedDeck(i, this.water, () => this.server.url, this.saw));
  }

  private say(line: string): void {
    this.how.say?.(line);
  }

  /** What a device was answered. */
  private readonly saw = (status: number, text: string): void => {
    if (status === 507) this.result.saidFull ||= text.includes('disk full');
    else if (status >= 400 && status !== 503) this.result.odd.push(`${status}: ${text.slice(0, 200)}`);
  };

  private async serveAgain(): Promise<void> {
    // A start may be ended or find no room: it is begun again, as whatever keeps a server up does.
    for (;;) {
      try {
        this.server = await serve(this.how.data, '--port', this.port);
        this.port = new URL(this.server.url).port;
        return;
      } catch (error) {
        const words = (error as Error).message;
        if (!this.full && !this.restarting && !this.over) this.result.odd.push(`start: ${words.slice(-300)}`);
        await sleep(200);
      }
    }
  }

  private restarting = false;

  private async watch(): Promise<void> {
    while (!this.over) {
      const well = await fetch(`${this.server.url}/api/health`, { signal: AbortSignal.timeout(2000) }).then(
        (r) => r.ok,
        () => false,
      );
      if (well) {
        if (this.down !== null && !this.full) this.result.longestDown = Math.max(this.result.longestDown, (Date.now() - this.down) / 1000);
        this.down = null;
      } else this.down ??= Date.now();
      await sleep(100);
    }
  }

  /** Runs a command that may be killed meanwhile. */
  private run(...args: string[]): Promise<{ code: number | null; text: string }> {
    const child = spawn(process.execPath, [main, ...args], { env: { ...process.env, DATABASE_URL: '' } });
    this.commands.add(child.pid!);
    let text = '';
    child.stdout.on('data', (d) => (text += d));
    child.stderr.on('data', (d) => (text += d));
    return new Promise((done) =>
      child.on('close', (code) => {
        this.commands.delete(child.pid!);
        done({ code, text });
      }),
    );
  }

  private acknowledged(): number {
    return this.decks.reduce((n, d) => n + [...d.taken].filter((path) => path.includes('/contacts/')).length, 0);
  }

  private async logMarks(): Promise<void> {
    await Promise.all(
      this.decks.map(async (deck) => {
        const each = this.how.marks / this.how.decks;
        const pause = (0.85 * this.how.kills * this.how.every) / each;
        for (let k = 0; k < each; k++) {
          await deck.mark();
          await sleep(2 * this.random() * pause);
        }
      }),
    );
  }

  private async import(): Promise<void> {
    for (let k = 0; !this.over; k++) {
      const text = soundings(k);
      const name = `survey-${k}.csv`;
      const file = join(this.how.files, name);
      writeFileSync(file, text);
      const byPage = k % 2 === 0;
      // Until it is said to be done, however often it takes: what is known already is not added again.
      while (!(byPage ? await this.importByPage(name, text) : await this.importByCommand(file))) await sleep(300);
      this.result.imported.imports++;
      this.result.imported.rows += ROWS;
      rmSync(file);
      await sleep(this.random() * this.how.every);
    }
  }

  private async importByCommand(file: string): Promise<boolean> {
    return (await this.run('import', '--water', 'Slope mere', '--data', this.how.data, file)).code === 0;
  }

  private async importByPage(name: string, body: string): Promise<boolean> {
    let last = '';
    try {
      const upload = newId();
      const sent = await fetch(`${this.server.url}/api/uploads/${upload}/${name}`, {
        method: 'PUT',
        headers: { 'Content-Type': 'application/octet-stream' },
        body,
      });
      if (!sent.ok) return false;
      const { job } = await ask<{ job?: string }>(this.server, '/imports', 'POST', { upload, water: 'Slope mere' });
      if (!job) return false;
      for (const end = Date.now() + 180_000; Date.now() < end;) {
        const state = await ask<{ state?: string }>(this.server, `/jobs/${job}`).catch(() => ({ state: undefined }));
        last = JSON.stringify(state);
        if (state.state === 'done') return true;
        if (state.state === 'failed' || state.state === 'cancelled') return false;
        await sleep(200);
      }
    } catch {
      // It was away.
      return false;
    }
    this.result.odd.push(`${name}: its import was not done in three minutes: ${last}`);
    return false;
  }

  private async backUp(): Promise<void> {
    const folder = join(this.how.files, 'backups');
    for (let k = 0; !this.over; k++) {
      const path = join(folder, `${k}.zip`);
      const atLeast = this.acknowledged();
      mkdirSync(folder, { recursive: true });
      const { code } = await this.run('backup', path, '--data', this.how.data);
      if (code === 0) this.backups.push({ path, atLeast });
      else if (existsSync(path) && !(await isWhole(path))) this.result.left.push(path);
      await sleep(this.random() * this.how.every);
    }
  }

  /** Restores the latest backup elsewhere, over and over, until it is there. */
  private async restore(): Promise<void> {
    while (!this.over) {
      const last = this.backups.at(-1);
      await sleep(300);
      if (!last) continue;
      const { path, remove } = temporaryFolder();
      try {
        for (;;) {
          const { code, text } = await this.run('restore', last.path, '--data', path);
          // It was told to end after it was done.
          if (code === 0 || text.includes('there is a logbook here already')) break;
          // Its database may be left running without anybody who uses it.
          if (this.random() < 0.5) kill(postmaster(path));
        }
        const again = join(this.how.files, 'restored.zip');
        rmSync(again, { force: true });
        while ((await command('backup', again, '--data', path)).code !== 0) await sleep(100);
        const [before, after] = await Promise.all([last.path, again].map(checkBackup));
        const differing = before.files.filter((f, k) => f.rows !== after.files[k].rows || (!mayDiffer(f.file) && f.sha256 !== after.files[k].sha256)); // prettier-ignore
        this.result.restores.done++;
        if (differing.length) {
          this.result.restores.wrong++;
          this.say(`restored otherwise: ${differing.map((f) => f.file).join(', ')}`);
        }
      } finally {
        kill(postmaster(path));
        await sleep(300);
        remove();
      }
    }
  }

  private async killOne(): Promise<void> {
    const dice = this.random();
    let victim: Victim = dice < 0.3 ? 'server' : dice < 0.5 ? 'database' : dice < 0.65 ? 'backend' : dice < 0.75 ? 'both' : dice < 0.87 ? 'start' : 'command'; // prettier-ignore
    const running = [...this.commands];
    if (victim === 'command' && !running.length) victim = 'server';
    this.result.kills[victim]++;
    const pm = postmaster(this.how.data);
    if (victim === 'command') return void kill(running[Math.floor(this.random() * running.length)]);
    if (victim === 'database') return void kill(pm);
    if (victim === 'backend') {
      const all = childrenOf(pm);
      return void kill(all[Math.floor(this.random() * all.length)]);
    }
    this.restarting = true;
    if (victim === 'both') kill(pm);
    await this.server.stop('SIGKILL');
    if (victim === 'start') {
      const child = spawn(process.execPath, [main, 'serve', '--port', this.port, '--data', this.how.data], { stdio: 'ignore' });
      const gone = new Promise((done) => child.on('close', done));
      await sleep(this.random() * 2000);
      kill(child.pid);
      await gone;
    }
    this.restarting = false;
    await this.serveAgain();
  }

  /** Leaves the disk without a byte for some seconds. */
  private async fill(ms: number): Promise<void> {
    this.full = true;
    const ballast = join(this.how.data, 'ballast');
    const { bavail, bsize } = statfsSync(this.how.data);
    this.say(`the disk fills: ${Math.round((bavail * bsize) / 1e6)} MB were free`);
    try {
      execFileSync('dd', ['if=/dev/zero', `of=${ballast}`, 'bs=64k'], { stdio: 'ignore' });
    } catch {
      // dd ends with an error when the disk is full: as it should.
    }
    await sleep(ms);
    // Room that was there in a table or a journal is used up first: by a deck that goes on, whatever the others have left to log.
    for (const end = Date.now() + 30_000; !this.result.saidFull && Date.now() < end;) {
      await this.decks[0].mark();
      await sleep(50);
    }
    rmSync(ballast);
    this.say('the disk has room again');
    for (const end = Date.now() + 60_000; this.down !== null && Date.now() < end;) await sleep(100);
    if (this.down !== null) this.result.odd.push('it did not come back after the disk was full');
    this.full = false;
  }

  /** Moves the clock of all processes, those that run too. @param days from the true one */
  private setClock(days: number): void {
    const seconds = new BigInt64Array([BigInt(Math.round(days * 86_400))]);
    // Written over, not anew: it is looked at through the file that was there at the start.
    writeFileSync(this.clockFile, new Uint8Array(seconds.buffer), { flag: existsSync(this.clockFile) ? 'r+' : 'w' });
    this.say(`the clock: ${days} days`);
  }

  async all(): Promise<Survived> {
    mkdirSync(this.how.files, { recursive: true });
    if (this.how.clock) {
      this.setClock(0);
      Object.assign(process.env, otherClock(this.how.files, this.clockFile));
    }
    await this.serveAgain();
    await ask(this.server, `/waters/${this.water}`, 'PUT', { name: 'Slope mere' });
    await Promise.all(this.decks.map((d) => d.start()));
    const watching = this.watch();
    const works = [this.import(), this.backUp(), this.restore()];
    const logging = this.logMarks();
    const clocks = [40, -3, -0.1, 400, 0];
    for (let k = 0; k < this.how.kills; k++) {
      await sleep(this.how.every * (0.3 + 1.4 * this.random()));
      const { times, ms } = this.how.fills ?? { times: 0, ms: 0 };
      for (let j = 1; j <= times; j++) if (k === Math.floor((j * this.how.kills) / (times + 1))) await this.fill(ms);
      if (this.how.clock && k % Math.ceil(this.how.kills / 6) === 1)
        this.setClock(clocks[Math.floor((6 * k) / this.how.kills) % clocks.length]);
      await this.killOne();
    }
    await logging;
    await Promise.all(this.decks.map((deck) => deck.sendAll(300_000)));
    this.over = true;
    await Promise.all([...works, watching]);
    await this.count();
    await this.server.stop();
    // What is started in this process afterwards has the true clock.
    if (this.how.clock) for (const name of ['LD_PRELOAD', 'OTHER_CLOCK']) delete process.env[name];
    return this.result;
  }

  private async count(): Promise<void> {
    const { marks, imported, backups } = this.result;
    for (const deck of this.decks) {
      const kept = await deck.held(this.server.url);
      marks.logged += deck.marks.length;
      marks.lost += deck.marks.filter((id) => !kept.includes(id)).length;
      marks.doubled += kept.length - new Set(kept).size;
    }
    const surveys = await ask<{ soundings: number }[]>(this.server, `/waters/${this.water}/surveys`);
    imported.there = surveys.reduce((n, s) => n + s.soundings, 0);
    for (const { path, atLeast } of this.backups) {
      backups.made++;
      const said = await checkBackup(path).catch(() => null);
      if (!said) backups.broken++;
      else if (said.files.find((f) => f.file === 'contacts.ndjson')!.rows < atLeast) backups.short++;
    }
  }
}

/** The account is each installation's own, and a water gets the outline that its soundings propose once it is charted. */
const mayDiffer = (file: string): boolean => ['accounts.ndjson', 'waters.ndjson'].includes(file);

const isWhole = (path: string): Promise<boolean> =>
  checkBackup(path).then(
    () => true,
    () => false,
  );

/** Builds what lends processes another clock. @returns what they have to be given */
function otherClock(folder: string, clock: string): Record<string, string> {
  const library = join(folder, 'other-clock.so');
  execFileSync('cc', ['-O2', '-shared', '-fPIC', '-o', library, join(SHOAL, 'tools/other-clock.c')]);
  return { LD_PRELOAD: library, OTHER_CLOCK: clock };
}

/** Ends processes at random while an installation logs, imports, backs up, restores and starts. */
export const torture = (how: Torture): Promise<Survived> => new Trial(how).all();

import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, statSync } from 'node:fs';
import { randomUUID } from 'node:crypto';
import { isAbsolute, join } from 'node:path';
import type { BackupsState } from '@restless-shoal/core/contract';
import { writeWhole } from '../files';
import { databaseTrouble, type Pool } from '../db/pool';
import { writeBackup } from './write';

type Settings = Pick<BackupsState, 'folder' | 'keep' | 'daily'>;

const DAY = 86_400_000;
/** How often is looked whether a backup is due, ms. */
const LOOK = 3_600_000;
/** After a start the others go first, ms. */
const FIRST_LOOK = 120_000;

const NAME = /^restless-shoal-\d{4}-\d\d-\d\dT\d{6}\.zip$/;
const PART = /^\.restless-shoal-.*\.part$/;

/** A folder that no backup can be written to, and why. */
export class BackupFolderError extends Error {}

/** The backups that are made by themselves, once a day, and the one that is asked for. */
export class Backups {
  private readonly file: string;
  private readonly own: string;
  private timer: NodeJS.Timeout | null = null;
  private making: Promise<void> | null = null;
  private error: string | null = null;

  /** @param dir the data folder */
  constructor(
    private readonly pool: Pool,
    dir: string,
    private readonly log: (line: string) => void = () => undefined,
  ) {
    this.file = join(dir, 'backups.json');
    this.own = join(dir, 'backups');
  }

  private get settings(): Settings {
    const usual: Settings = { folder: this.own, keep: 7, daily: true };
    try {
      return { ...usual, ...(JSON.parse(readFileSync(this.file, 'utf8')) as Partial<Settings>) };
    } catch {
      return usual;
    }
  }

  /** @throws BackupFolderError when nothing can be written there */
  set(settings: Settings): void {
    if (!isAbsolute(settings.folder)) throw new BackupFolderError('must begin at the root, as in /media/stick');
    try {
      mkdirSync(settings.folder, { recursive: true, mode: 0o700 });
      const probe = join(settings.folder, `.restless-shoal-${randomUUID()}.part`);
      writeWhole(probe, '');
      rmSync(probe);
    } catch (error) {
      throw new BackupFolderError(`cannot be written to: ${(error as Error).message}`);
    }
    writeWhole(this.file, JSON.stringify(settings));
    this.error = null;
  }

  /**
   * Whole backups of the folder, the newest first. A file has its name only once it was read back. One that lies ahead
   * was made by a clock that has been put back since: it counts as the oldest, or the next one would be let go of at once.
   */
  private made({ folder }: Settings): { name: string; at: number; bytes: number }[] {
    const lies = (at: number): boolean => at > Date.now() + DAY;
    if (!existsSync(folder)) return [];
    return readdirSync(folder)
      .filter((name) => NAME.test(name))
      .map((name) => ({ name, at: statSync(join(folder, name)).mtimeMs, bytes: statSync(join(folder, name)).size }))
      .sort((a, b) => Number(lies(a.at)) - Number(lies(b.at)) || b.name.localeCompare(a.name));
  }

  state(): BackupsState {
    const settings = this.settings;
    const [last] = this.made(settings);
    return {
      ...settings,
      last: last ? { at: new Date(last.at).toISOString(), name: last.name, bytes: last.bytes } : null,
      making: this.making !== null,
      error: this.error,
    };
  }

  /** Makes one now, in the folder, and lets go of the oldest. Whoever asks meanwhile waits for the same one. */
  make(): Promise<void> {
    return (this.making ??= this.makeOne().finally(() => (this.making = null)));
  }

  private async makeOne(): Promise<void> {
    const settings = this.settings;
    const now = new Date().toISOString().slice(0, 19).replaceAll(':', '');
    try {
      mkdirSync(settings.folder, { recursive: true, mode: 0o700 });
      await writeBackup(this.pool, join(settings.folder, `restless-shoal-${now}.zip`));
      for (const { name } of this.made(settings).slice(settings.keep)) rmSync(join(settings.folder, name), { force: true });
      this.error = null;
    } catch (error) {
      const full = databaseTrouble(error) === 'full';
      this.error = full ? 'disk full: the backup was not made' : `the backup was not made: ${(error as Error).message}`;
      throw error;
    }
  }

  /** From now on makes one a day, if there is anything to keep. */
  start(): void {
    // What a killed process left half made.
    for (const folder of [this.own, this.settings.folder])
      if (existsSync(folder)) for (const name of readdirSync(folder)) if (PART.test(name)) rmSync(join(folder, name), { force: true });
    const look = (): void => {
      void this.makeIfDue().catch((error: Error) => this.log(`backup: ${error.message}`));
      this.timer = setTimeout(look, LOOK).unref();
    };
    this.timer = setTimeout(look, FIRST_LOOK).unref();
  }

  /** Makes one if the last is a day old and there is anything to keep. */
  async makeIfDue(now = Date.now()): Promise<void> {
    const settings = this.settings;
    const [last] = this.made(settings);
    // A clock that was put back makes the last one lie ahead: that is no reason to make none.
    if (!settings.daily || (last && Math.abs(now - last.at) < DAY)) return;
    if ((await this.pool.query('SELECT 1 FROM waters LIMIT 1')).rowCount) await this.make();
  }

  stop(): void {
    if (this.timer) clearTimeout(this.timer);
  }
}

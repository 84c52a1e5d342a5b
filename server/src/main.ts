import { parseArgs, type ParseArgsConfig } from 'node:util';
import { FormatError } from '@restless-shoal/core/formats';
import { blurOf, BLURS } from '@restless-shoal/core/geo';
import { readTime } from '@restless-shoal/core/logbook';
import { defaultData, openContext } from './cli/context';
import { databaseTrouble } from './db/pool';
import { ToldError } from './told-error';

// What a command needs is loaded with it: most are done in a moment.

/** The words of the command are off. */
class UsageError extends Error {}

const USAGE = `usage:
  ./shoal demo     [--port N] [--data DIR]
  ./shoal serve    [--port N] [--data DIR] [--listen ADDRESS [--cert FILE --key FILE]]
  ./shoal certificate [NAME|ADDRESS...] [--data DIR]
  ./shoal password [--data DIR]
  ./shoal import   --water NAME [--create] [--update] [--mapping FILE.json] [--data DIR] FILE|FOLDER|ZIP...
  ./shoal export   --water NAME --to FOLDER [--blur METRES|areas] [--data DIR]
  ./shoal forecast --water NAME --species NAME --at TIME [--conditions FILE.csv] [--profile FILE.csv] --out FILE.csv [--data DIR]
  ./shoal backup   FILE.zip [--data DIR]
  ./shoal restore  FILE.zip [--data DIR]
  ./shoal test     [unit|api|browser]
  ./shoal bench    [NAME]`;

type Options = NonNullable<ParseArgsConfig['options']>;

function words<O extends Options>(args: string[], options: O) {
  try {
    return parseArgs({
      args,
      options: { data: { type: 'string' }, ...options } as O & { data: { type: 'string' } },
      allowPositionals: true,
    });
  } catch (error) {
    throw new UsageError((error as Error).message);
  }
}

function given(value: string | boolean | undefined, name: string): string {
  if (typeof value !== 'string' || !value.trim()) throw new UsageError(`--${name} is needed`);
  return value;
}

async function serve(args: string[], demo: boolean): Promise<void> {
  const { values, positionals } = words(args, {
    port: { type: 'string' },
    listen: { type: 'string' },
    cert: { type: 'string' },
    key: { type: 'string' },
  });
  if (positionals.length) throw new UsageError(`"${positionals[0]}" is not understood`);
  if (!values.listen && (values.cert ?? values.key)) throw new UsageError('--cert and --key go with --listen ADDRESS');
  const port = values.port === undefined ? 4870 : Number(values.port);
  if (!Number.isInteger(port) || port < 0 || port > 65535) throw new UsageError(`--port ${values.port} is not a port (0–65535)`);
  const { serveCommand } = await import('./cli/serve');
  await serveCommand({
    data: values.data ?? defaultData(demo),
    port,
    demo,
    listen: values.listen ?? null,
    cert: values.cert,
    key: values.key,
  });
}

async function importFiles(args: string[]): Promise<void> {
  const { values, positionals } = words(args, {
    water: { type: 'string' },
    create: { type: 'boolean' },
    update: { type: 'boolean' },
    mapping: { type: 'string' },
    from: { type: 'string' },
    within: { type: 'string' },
  });
  const water = given(values.water, 'water');
  if (!positionals.length) throw new UsageError('name at least one file, folder or ZIP');
  const within = values.within === undefined ? null : Number(values.within);
  if (within !== null && !(within >= 0 && within <= 100_000)) throw new UsageError('--within is how far marks may lie off, 0 to 100000 m');
  if (within !== null && !values.from) throw new UsageError('--within is said of marks of others: --from NAME says whose');
  const from = values.from?.trim() ? { name: values.from.trim().slice(0, 120), within_m: within } : undefined;
  const { importCommand } = await import('./cli/import');
  await withContext(values.data, (context) =>
    importCommand(context, positionals, { water, create: Boolean(values.create), update: Boolean(values.update), from }, values.mapping),
  );
}

async function exportWater(args: string[]): Promise<void> {
  const { values, positionals } = words(args, { water: { type: 'string' }, to: { type: 'string' }, blur: { type: 'string' } });
  if (positionals.length) throw new UsageError(`"${positionals[0]}" is not understood`);
  const blur = blurOf(values.blur) ?? null;
  if (values.blur !== undefined && blur === null)
    throw new UsageError(`--blur is one of ${BLURS.join(', ')} (metres, or areas drawn on the Chart)`);
  const [water, to] = [given(values.water, 'water'), given(values.to, 'to')];
  const { exportCommand } = await import('./cli/export');
  await withContext(values.data, (context) => exportCommand(context, water, to, blur));
}

async function forecast(args: string[]): Promise<void> {
  const { values, positionals } = words(args, {
    water: { type: 'string' },
    species: { type: 'string' },
    at: { type: 'string' },
    conditions: { type: 'string' },
    profile: { type: 'string' },
    out: { type: 'string' },
  });
  if (positionals.length) throw new UsageError(`"${positionals[0]}" is not understood`);
  const at = readTime(given(values.at, 'at'));
  if (at.startsWith('!')) throw new UsageError(`--at "${values.at}" ${at.slice(1)}`);
  const options = {
    water: given(values.water, 'water'),
    species: given(values.species, 'species'),
    at: new Date(at),
    conditions: values.conditions,
    profile: values.profile,
    out: given(values.out, 'out'),
  };
  const { forecastCommand } = await import('./cli/forecast');
  await withContext(values.data, (context) => forecastCommand(context, options));
}

async function oneFile(verb: 'backup' | 'restore', args: string[]): Promise<void> {
  const { values, positionals } = words(args, {});
  if (positionals.length !== 1) throw new UsageError(`${verb} wants one file, as in ./shoal ${verb} logbook.zip`);
  const { backupCommand, restoreCommand } = await import('./cli/backup');
  await withContext(values.data, (context) => (verb === 'backup' ? backupCommand : restoreCommand)(context, positionals[0]));
}

async function withContext(
  data: string | undefined,
  work: (context: Awaited<ReturnType<typeof openContext>>) => Promise<void>,
): Promise<void> {
  // A signal while the database starts waits until it has, and stops it again.
  const opening = openContext(data ?? defaultData(false));
  let closed: Promise<void> | null = null;
  const close = (): Promise<void> => (closed ??= opening.then((context) => context.close()));
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
    process.on(signal, () => {
      console.error(`${signal}: stopped; what was not finished is not in the database`);
      void close().finally(() => process.exit(1));
    });
  const context = await opening;
  try {
    await work(context);
  } finally {
    await close();
  }
}

async function main([verb, ...args]: string[]): Promise<void> {
  switch (verb) {
    case 'demo':
    case 'serve':
      return serve(args, verb === 'demo');
    case 'import':
      return importFiles(args);
    case 'forecast':
      return forecast(args);
    case 'export':
      return exportWater(args);
    case 'password': {
      const { values, positionals } = words(args, {});
      if (positionals.length) throw new UsageError('the password is asked for, or read from standard input: not given as a word');
      const { passwordCommand } = await import('./cli/password');
      return withContext(values.data, passwordCommand);
    }
    case 'certificate': {
      const { values, positionals } = words(args, {});
      const { certificateCommand } = await import('./cli/certificate');
      return withContext(values.data, (context) => certificateCommand(context, positionals));
    }
    case 'backup':
    case 'restore':
      return oneFile(verb, args);
    default:
      throw new UsageError(verb ? `"${verb}" is not a command` : 'a command is needed');
  }
}

// Done is said by nothing but the end of the work: a process that runs out of things to wait for has failed.
process.exitCode = 1;
const done = (): void => void (process.exitCode = 0);
process.on('beforeExit', () => {
  if (process.exitCode) console.error('it ended before it was done: what it waited for is gone; run it again');
});

main(process.argv.slice(2)).then(done, (error: unknown) => {
  const expected = error instanceof ToldError || error instanceof FormatError;
  if (error instanceof UsageError) console.error(`${error.message}\n${USAGE}`);
  else if (databaseTrouble(error) === 'full')
    console.error('disk full: nothing new was saved; what was there is safe. Free some space and run it again');
  else if (databaseTrouble(error) === 'away') console.error('the database ended meanwhile: nothing was half done; run it again');
  else console.error(expected ? (error as Error).message : error);
  process.exit(error instanceof UsageError ? 2 : 1);
});

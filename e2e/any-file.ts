import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { makeLogbook } from '@restless-shoal/demo';
import { makeForeignFiles } from './foreign-files';

export interface NamedFile {
  name: string;
  bytes: Uint8Array;
}

/** No file that is bent is longer than this, bytes: what is long is met often enough. */
const LONGEST = 20_000;

/** Files that are right, of each kind that is read: our own and other programs'. @param folder for what other programs make */
export async function rightFiles(folder: string): Promise<NamedFile[]> {
  const own = [...makeLogbook({ seed: 5, trips: 1 }).folder].map(([name, text]) => ({
    name,
    bytes: new TextEncoder().encode(text.length > LONGEST ? text.slice(0, text.lastIndexOf('\n', LONGEST) + 1) : text),
  }));
  await makeForeignFiles(folder);
  return own.concat(readdirSync(folder).map((name) => ({ name, bytes: new Uint8Array(readFileSync(join(folder, name))) })));
}

/** What breaks readers: ends of numbers, of lines, of parts, of depth. */
const PIECES = ['', '\0', '-', '1e309', 'NaN', '"', '\r', '\n\n', ',', ';', '<a>', '</', '&#0;', '{', '[', '[[', ']', '\ud800', '\ufffd', '9'.repeat(400), '=1+1', 'PK\u0003\u0004', '<gpx>', '$GPRMC,', '*00', '0000-00-00T00:00:00Z'].map((text) => Buffer.from(text)); // prettier-ignore

/** A file with one to six faults: bytes turned, cut, doubled, put in, or taken from another. */
export function bentFile(files: NamedFile[], random: () => number): NamedFile {
  const any = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
  const { name, bytes } = any(files);
  let body = Buffer.from(bytes);
  for (let faults = 1 + Math.floor(random() * 6); faults > 0; faults--) {
    const at = Math.floor(random() * (body.length + 1));
    const length = Math.floor(random() ** 3 * (body.length - at));
    const [before, there, after] = [body.subarray(0, at), body.subarray(at, at + length), body.subarray(at + length)];
    const dice = random();
    if (dice < 0.3) {
      body = Buffer.from(body);
      for (let n = 1 + Math.floor(random() * 8); n > 0 && body.length; n--)
        body[Math.floor(random() * body.length)] = Math.floor(random() * 256);
    } else if (dice < 0.4) body = before;
    else if (dice < 0.55) body = Buffer.concat([before, after]);
    else if (dice < 0.65) body = Buffer.concat([before, there, there, after]);
    else if (dice < 0.9) body = Buffer.concat([before, any(PIECES), after]);
    else {
      const other = any(files).bytes;
      const from = Math.floor(random() * other.length);
      body = Buffer.concat([before, other.subarray(from, from + 2000), after]);
    }
  }
  // Sometimes under another's name.
  return { name: random() < 0.9 ? name : any(files).name, bytes: body };
}

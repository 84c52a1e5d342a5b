import { closeSync, fsyncSync, openSync, renameSync, writeSync } from 'node:fs';
import { dirname } from 'node:path';

/** Waits until a file, or what a folder lists, is on the disk. */
export function onDisk(path: string): void {
  const at = openSync(path, 'r');
  try {
    fsyncSync(at);
  } finally {
    closeSync(at);
  }
}

/** Writes a small file, for its owner alone: beside the old one, and in its place once it is on the disk. */
export function writeWhole(file: string, text: string): void {
  const fresh = `${file}.new`;
  const at = openSync(fresh, 'w', 0o600);
  try {
    writeSync(at, text);
    fsyncSync(at);
  } finally {
    closeSync(at);
  }
  renameSync(fresh, file);
  onDisk(dirname(file));
}

import { readFileSync } from 'node:fs';

/** What an installation keeps of its cluster: the password of its owner, and the port that it was at last. */
export interface ClusterSettings {
  port: number;
  password: string;
}

/** Reads the settings; null where there are none, or none that can be read. */
export function readSettings(file: string): ClusterSettings | null {
  try {
    const read = JSON.parse(readFileSync(file, 'utf8')) as Partial<ClusterSettings> | null;
    return typeof read?.password === 'string' && read.password ? { port: Number(read.port) || 0, password: read.password } : null;
  } catch {
    return null;
  }
}

/** The backups that the server makes by itself. */
export interface BackupsState {
  /** Where they are written, on the server's machine. */
  folder: string;
  /** So many are kept. */
  keep: number;
  daily: boolean;
  /** The last good one: whole, and read back. */
  last: { at: string; name: string; bytes: number } | null;
  making: boolean;
  /** Why the last try came to nothing; null when it did not. */
  error: string | null;
}

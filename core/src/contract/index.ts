/** What server and client say to each other: shapes that both are built against. */
export type { TrashItem } from './trash';
export type { ImportPreview, PartPreview } from './import-preview';
export type { BackupsState } from './backups';

import { csvLine } from '@restless-shoal/core/formats';
import { columnsOf, type Row } from '@restless-shoal/core/logbook';
import type { StoredContact } from '../../api/queries';

/** Marks as a contacts.csv of the exchange format, in the order given. */
export function marksAsCsv(contacts: StoredContact[]): string {
  const columns = ['trip', ...columnsOf('contacts')];
  return [columns, ...contacts.map((c) => columns.map((name) => (c as unknown as Row)[name]))].map(csvLine).join('');
}

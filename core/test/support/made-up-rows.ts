import fc from 'fast-check';
import { naturalKey, records, rowContradiction, type Field, type Fields, type RecordName, type Row } from '../../src/logbook';

/** Any value that a field may hold; for text also what a table must take care of. */
function valueOf(field: Field): fc.Arbitrary<string | number> {
  switch (field.type) {
    case 'choice':
      return fc.constantFrom(...field.options);
    case 'time':
      return fc.date({ min: new Date('1950-01-01'), max: new Date('2090-01-01'), noInvalidDate: true }).map((d) => d.toISOString());
    case 'number':
      return field.whole
        ? fc.integer({ min: field.min, max: field.max })
        : fc.double({ min: field.min, max: field.max, noNaN: true }).map((v) => (Math.abs(v) < 1e-30 ? 0 : v));
    case 'text':
      // What is kept is trimmed, and no zero byte is.
      return fc
        .oneof(
          fc.string({ unit: 'grapheme', maxLength: 40 }),
          fc.constantFrom('a;b', 'a,b', 'a\tb', '"so"', 'two\nlines', '=1+1', 'Zürs ß 鱸'),
        )
        .map((t) => t.replaceAll('\u0000', '').trim())
        .filter((t) => t !== '');
  }
}

/** Any possible row of a record: every needed field, and each other one or null. */
export const anyRow = (record: RecordName): fc.Arbitrary<Row> =>
  fc
    .record(
      Object.fromEntries(
        Object.entries(records[record] as Fields).map(([name, field]) => [
          name,
          field.needed ? valueOf(field) : fc.option(valueOf(field), { nil: null }),
        ]),
      ),
    )
    .map((row) => {
      // What no single field shows: put in order instead of thrown away.
      const at = rowContradiction(record, row as Row);
      if (at?.column === 'end') [row.start, row.end] = [row.end, row.start];
      if (at?.column === 'bottom_m') [row.top_m, row.bottom_m] = [row.bottom_m, row.top_m];
      if (at?.column === 'photo') row.photo = [...String(row.photo)].map((c) => c.codePointAt(0)!.toString(36)).join('').slice(0, 100); // prettier-ignore
      return row as Row;
    });

/** Rows of a record that differ in what tells records apart. */
export const anyRows = (record: RecordName, max: number): fc.Arbitrary<Row[]> =>
  fc.uniqueArray(anyRow(record), {
    minLength: 1,
    maxLength: max,
    selector: (row) => JSON.stringify(naturalKey(record, row).map((name) => row[name])),
  });

import { expect } from 'chai';
import { newId, readField, Refused, readTime, records, schemas } from '../../src/logbook';

describe('times', () => {
  it('are read with their offset and kept as UTC', () => {
    expect(readTime('2026-06-14T08:47:00+02:00')).to.equal('2026-06-14T06:47:00.000Z');
    expect(readTime('2026-06-14 08:47Z')).to.equal('2026-06-14T08:47:00.000Z');
    expect(readTime('2026-06-14T08:47:00.25-0330')).to.equal('2026-06-14T12:17:00.250Z');
  });
  for (const wrong of [
    '0000-06-14T08:47:00Z',
    '1066-10-14T09:00:00Z',
    '2026-06-14T08:47:00+16:00',
    '2026-06-14T08:47:00',
    '2026-06-14',
    '14.06.2026 08:47',
    '2026-02-30T08:00:00Z',
    '2026-13-01T00:00:00Z',
  ])
    it(`refuses ${wrong}`, () => expect(readTime(wrong)).to.match(/^!/));
});

describe('fields', () => {
  it('say what is wrong with them', () => {
    expect(readField(records.contacts.latitude, '95')).to.deep.equal(new Refused('95 is impossible: it must be from -90 to 90'));
    expect(readField(records.contacts.kind, ' Fish ')).to.equal('fish');
    expect(readField(records.contacts.kind, 'whale')).to.have.property('reason').that.includes('none of fish, bait');
    expect(readField(records.contacts.top_m, '1e')).to.deep.equal(new Refused('"1e" is not a number'));
    expect(readField(records.contacts.latitude, '')).to.deep.equal(new Refused('is missing'));
    expect(readField(records.contacts.count, '2.5')).to.have.property('reason').that.includes('whole number');
  });
});

describe('the HTTP schemas', () => {
  const contact = { time: '2026-06-14T06:47:00Z', latitude: 47.3, longitude: -33.9, kind: 'fish' };
  const complaint = (value: object): string => {
    try {
      schemas.contact.validateSync(value);
      return 'none';
    } catch (error) {
      return `${(error as { path: string }).path}: ${(error as Error).message}`;
    }
  };
  it('name the field', () => {
    expect(complaint(contact)).to.equal('none');
    expect(complaint({ ...contact, latitude: 95 })).to.match(/^latitude: is impossible/);
    expect(complaint({ ...contact, top_m: -3 })).to.match(/^top_m: is impossible/);
    expect(complaint({ ...contact, time: undefined })).to.equal('time: is missing');
    expect(complaint({ ...contact, count: '3' })).to.match(/^count: must be a number/);
    expect(complaint({ ...contact, top_m: 5, bottom_m: 4 })).to.match(/^bottom_m: 4 lies above/);
  });
});

describe('a number', () => {
  it('that no instrument tells from nought is nought; one that a column cannot hold is refused', () => {
    const shallow = records.soundings.depth_m;
    expect(['3e-160', '1e-31', '0.02'].map((t) => readField(shallow, t))).to.deep.equal([0, 0, 0.02]);
    for (const t of ['1e400', '-0.1', '12,5', '0x10', 'NaN', '12 m']) expect(readField(shallow, t), t).to.be.instanceOf(Refused);
  });
});

describe('ids', () => {
  it('sort by time and are version 7', () => {
    const ids = [1, 2, 3].map((k) => newId(1_780_000_000_000 + k));
    expect([...ids].sort()).to.deep.equal(ids);
    expect(ids[0]).to.match(/^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
  });
});

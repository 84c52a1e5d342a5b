import { expect } from 'chai';
import fc from 'fast-check';
import { addressOf, problemOfField, ROUTES } from '../../src/contract';
import { schemas } from '../../src/logbook';

describe('an address of the contract', () => {
  it('holds what is put into it, whatever that is', () =>
    fc.assert(
      fc.property(fc.string({ minLength: 1, unit: 'grapheme' }), fc.string({ unit: 'grapheme' }), (name, species) => {
        const [method, path] = addressOf('PUT /waters/:water/species/:name', { water: 'w', name });
        expect(method).to.equal('PUT');
        const parts = path.split('/');
        expect(parts).to.have.length(5);
        expect(decodeURIComponent(parts[4])).to.equal(name);
        const [, asked] = addressOf('GET /waters/:water/rod-hours', { water: 'w' }, { species });
        expect(new URL(asked, 'http://a').searchParams.get('species')).to.equal(species);
      }),
    ));
  it('is one of a route that has a body only where it writes', () => {
    for (const [route, spec] of Object.entries(ROUTES)) if (/^(GET|DELETE) /.test(route)) expect(spec, route).to.not.have.property('takes');
  });
});

describe('what a schema refuses', () => {
  const refused = (row: object) => {
    try {
      schemas.contact.validateSync({ time: '2026-05-02T06:00:00Z', latitude: 1, longitude: 2, kind: 'fish', ...row });
    } catch (error) {
      return problemOfField(error as never);
    }
    throw new Error('it was taken');
  };
  it('is a code with the field and its limits, never a sentence to be read', () => {
    expect(refused({ count: 2.5 })).to.include({ code: 'field-not-whole', field: 'count' });
    expect(refused({ count: 1e9 })).to.deep.include({ code: 'field-out-of-range', field: 'count', values: { min: 0, max: 1e6 } });
    expect(refused({ kind: 'gull' }).values.options).to.include('bait');
    expect(refused({ kind: undefined })).to.include({ code: 'field-missing', field: 'kind' });
    expect(refused({ latitude: 'north' })).to.include({ code: 'field-wrong-type', field: 'latitude' });
    expect(refused({ colour: 'red' })).to.include({ code: 'field-unknown', field: 'colour' });
    expect(refused({ species: 'x'.repeat(200) })).to.deep.include({ code: 'field-too-long', field: 'species' });
    expect(refused({ top_m: 5, bottom_m: 2 })).to.include({ code: 'field-wrong', field: 'bottom_m' });
  });
});

import { expect } from 'chai';
import { emptyReport, readRecord } from '@restless-shoal/core/formats';
import type { Contact } from '@restless-shoal/core/logbook';
import { settledTargets, TargetOdds } from '@restless-shoal/core/patterns';
import { makeLogbook } from '../src';

describe('odds of what a mark is', () => {
  it('hold on trips that were held out, within 0.05 on average over tenths', async () => {
    const told: { odds: number; was: boolean }[] = [];
    let [better, all] = [0, 0];
    for (const seed of [4, 15]) {
      const bytes = new TextEncoder().encode(makeLogbook({ seed, trips: 30 }).folder.get('contacts.csv')!);
      const rows: Contact[] = [];
      for await (const batch of readRecord('contacts', [bytes], emptyReport('contacts.csv', 'contacts')))
        rows.push(...batch.map(({ row }) => row as unknown as Contact));
      const contacts = rows.map((row, k) => ({ ...row, id: String(k), trip_id: row.trip }));
      const settled = settledTargets(contacts, new Map(), (name) => name);
      const trips = [...new Set(settled.map((m) => m.trip))].sort();
      const known = [...new Set(settled.map((m) => m.was))];
      for (const half of [0, 1]) {
        const [seen, held] = [half, 1 - half].map((part) => settled.filter((m) => trips.indexOf(m.trip) % 2 === part));
        const odds = new TargetOdds(seen, known);
        for (const mark of held) {
          const now = odds.of(mark.signs);
          for (const { species, odds: p } of now) told.push({ odds: p, was: species === mark.was });
          better += Math.log(now.find((o) => o.species === mark.was)!.odds / odds.of({}).find((o) => o.species === mark.was)!.odds);
          all++;
        }
      }
    }
    expect(all).to.be.above(200);
    told.sort((a, b) => a.odds - b.odds);
    const tenths = Array.from({ length: 10 }, (_, k) =>
      told.slice(Math.floor((k * told.length) / 10), Math.floor(((k + 1) * told.length) / 10)),
    );
    const mean = (list: number[]): number => list.reduce((s, v) => s + v, 0) / list.length;
    const off = mean(tenths.map((part) => Math.abs(mean(part.map((t) => t.odds)) - mean(part.map((t) => Number(t.was))))));
    expect(off).to.be.at.most(0.05);
    expect(better / all, 'what the signs tell beyond the shares').to.be.above(0.3);
  });
});

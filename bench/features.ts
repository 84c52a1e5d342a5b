import { buildChart } from '@restless-shoal/core/chart';
import { cleanedOf } from '../core/test/support/clean';
import { addScore, score, type Score } from '../core/test/support/score';
import { makeSoundedWater, survey, type Planted } from '../core/test/support/sounded-water';
import { finish, held } from './support';

// Humps of half a metre and more, ledges, saddles, swings of a channel and hard spots, planted in made-up waters and
// looked for in charts of soundings with spikes and second echoes. What is claimed is bounded in area.

const WATERS = Number(process.argv[2] ?? 20);
const FIRST = Number(process.argv[3] ?? 101);
const KINDS: Planted['kind'][] = ['hump', 'ledge', 'saddle', 'channel swing', 'hard spot'];
/** No kind may claim more than this share of the water. */
const MOST_AREA = 0.1;
const results: boolean[] = [];
for (const spacing of [20, 30]) {
  const totals = new Map<string, Score>();
  let area = 0;
  for (let seed = FIRST; seed < FIRST + WATERS; seed++) {
    const water = makeSoundedWater(seed);
    area += water.width * water.height;
    const run = survey(water, { seed, spacing, spikes: 0.005, doubles: 2 });
    const chart = buildChart(32625, water.rings, cleanedOf(run));
    for (const kind of KINDS) totals.set(kind, addScore(totals.get(kind), score(water, chart.features, kind)));
  }
  for (const [kind, s] of totals) {
    console.log(
      `${kind}, passes ${spacing} m apart: ${s.found} of ${s.planted} found, ${s.right} of ${s.claimed} claims right, ${((100 * s.area) / area).toFixed(1)} % of the water claimed`,
    );
    results.push(held(`recall of ${kind}`, s.found / s.planted, '>=', 0.8));
    results.push(held(`precision of ${kind}`, s.right / s.claimed, '>=', 0.8));
    results.push(held(`area claimed as ${kind}`, s.area / area, '<=', MOST_AREA));
  }
}
finish(results);

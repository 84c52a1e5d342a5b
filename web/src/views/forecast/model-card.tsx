import { SCHOOL_NAMES, SCHOOLS, type HeldScores, type Rival, type ScoreCard } from '@restless-shoal/core/forecast';
import { Dialog } from '../../parts/dialog';
import { grouped, percent } from '../../parts/format';
import { useWaterState } from '../../state/water';
import { logScoreGain } from './log-score';

const HELD: Record<HeldScores['held'], string> = {
  trips: 'trips, in groups',
  fortnights: 'whole fortnights',
  'last season': 'the last season',
};

const rivalName = (rival: Rival): string =>
  (SCHOOLS as readonly string[]).includes(rival)
    ? SCHOOL_NAMES[rival as keyof typeof SCHOOL_NAMES]
    : rival === 'schools'
      ? 'the schools combined'
      : `the ${rival}`;

/** What in the scores asks for care, in words. */
export function weakSpots(scores: ScoreCard): string[] {
  const out: string[] = [];
  for (const { held, model, rivals } of scores.made) {
    const where = `with ${HELD[held]} held out`;
    if (model.expectedOverSeen > 1.15) out.push(`It says too much ${where}: ${model.expectedOverSeen.toFixed(2)} expected for each seen.`);
    if (model.expectedOverSeen < 0.85)
      out.push(`It says too little ${where}: ${model.expectedOverSeen.toFixed(2)} expected for each seen.`);
    if (model.slope < 0.8) out.push(`It is too bold ${where} (slope ${model.slope.toFixed(2)}).`);
    if (model.slope > 1.25) out.push(`It is too timid ${where} (slope ${model.slope.toFixed(2)}).`);
    for (const [name, { modelBetterBy }] of Object.entries(rivals) as [Rival, HeldScores['rivals'][Rival]][])
      if (modelBetterBy.value < 0) out.push(`${where[0].toUpperCase()}${where.slice(1)}, ${rivalName(name)} did better.`);
  }
  return out;
}

/** All that is known of how good a fit is: what it rests on, how it did on what it had not seen, and where it is weak. */
export function ModelCard({ scores, onClose }: { scores: ScoreCard; onClose: () => void }) {
  const { species, water } = useWaterState();
  const weak = weakSpots(scores);
  const [first] = scores.made;
  const years = scores.years.filter((y) => y.looks > 0);
  return (
    <Dialog title={`Model card: ${species.name}, ${water.name}`} onClose={onClose}>
      <p className="num text-sm">
        Scored on {grouped(first.model.looks)} scans of {first.model.trips} trips, each weighted to the water by its depth. Everything was
        learned anew without what it was judged by.
      </p>
      <table className="num mt-2 w-full text-right text-sm" data-testid="card">
        <thead>
          <tr className="text-mute">
            <th className="text-left font-normal">held out</th>
            {scores.made.map((m) => (
              <th key={m.held} className="font-normal">
                {HELD[m.held]}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {(
            [
              ['log score, nats per look', (m) => logScoreGain(m.model.logScore)],
              ['Brier score', (m) => m.model.brier.toFixed(4)],
              ['area under the curve', (m) => m.model.auc.toFixed(2)],
              ['expected over seen', (m) => m.model.expectedOverSeen.toFixed(2)],
              ['calibration slope', (m) => m.model.slope.toFixed(2)],
              ['held by the best tenth', (m) => percent(m.bestTenth.model)],
              ...(['base rate', 'hot spots', 'schools', ...SCHOOLS] as Rival[]).map((r): [string, (m: HeldScores) => string] => [
                `better than ${rivalName(r)} by`,
                (m) => logScoreGain(m.rivals[r].modelBetterBy.value),
              ]),
            ] as [string, (m: HeldScores) => string][]
          ).map(([name, of]) => (
            <tr key={name} className="border-t border-line">
              <th scope="row" className="py-0.5 text-left font-normal">
                {name}
              </th>
              {scores.made.map((m) => (
                <td key={m.held}>{of(m)}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {years.length > 1 && (
        <>
          <h3 className="mt-3 text-sm font-bold">The strategies, season by season (nats per look against the average look)</h3>
          <table className="num w-full text-right text-sm">
            <thead>
              <tr className="text-mute">
                <th />
                {years.map((y) => (
                  <th key={y.year} className="font-normal">
                    {y.year}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {SCHOOLS.map((school) => (
                <tr key={school} className="border-t border-line">
                  <th scope="row" className="text-left font-normal">
                    {SCHOOL_NAMES[school]}
                  </th>
                  {years.map((y) => (
                    <td key={y.year}>{logScoreGain(y.schools.find((s) => s.school === school)!.better.value)}</td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
      <h3 className="mt-3 text-sm font-bold">Weak spots</h3>
      {weak.length ? (
        <ul className="list-disc pl-5 text-sm">
          {weak.map((w) => (
            <li key={w}>{w}</li>
          ))}
        </ul>
      ) : (
        <p className="text-sm text-mute">None that these scores show.</p>
      )}
    </Dialog>
  );
}

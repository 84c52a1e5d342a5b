import { STRATEGIES, type HeldScores, type Rival, type ScoreCard, type Strategy } from '@restless-shoal/core/forecast';
import { Dialog } from '../../parts/dialog';
import { grouped, percent } from '../../parts/format';
import { useWaterState } from '../../state/water';
import { logScoreGain } from './log-score';
import { strategiesOf } from './strategies-of';
import { forecast as msg, strategyName, decimal, capital, term } from '../../words';

const HELD: Record<HeldScores['held'], string> = {
  trips: msg('modelCard.tripsInGroups'),
  fortnights: msg('modelCard.wholeFortnights'),
  'last season': msg('modelCard.theLastSeason'),
};

const rivalName = (rival: Rival): string =>
  (STRATEGIES as readonly string[]).includes(rival)
    ? strategyName(rival as Strategy)
    : rival === 'strategies'
      ? msg('modelCard.theStrategiesCombined')
      : msg('modelCard.the', { rival: term(rival) });

/** What in the scores asks for care, in words. */
export function weakSpots(scores: ScoreCard): string[] {
  const out: string[] = [];
  for (const { held, model, rivals } of scores.made) {
    const where = msg('modelCard.withHeldOut', { held: HELD[held] });
    if (model.expectedOverSeen > 1.15)
      out.push(msg('modelCard.overpredictsExpectedForEach', { where, expectedOverSeen: decimal(model.expectedOverSeen, 2) }));
    if (model.expectedOverSeen < 0.85)
      out.push(msg('modelCard.underpredictsExpectedForEach', { where, expectedOverSeen: decimal(model.expectedOverSeen, 2) }));
    if (model.slope < 0.8) out.push(msg('modelCard.overconfidentSlope', { where, slope: decimal(model.slope, 2) }));
    if (model.slope > 1.25) out.push(msg('modelCard.underconfidentSlope', { where, slope: decimal(model.slope, 2) }));
    for (const [name, { modelBetterBy }] of Object.entries(rivals) as [Rival, HeldScores['rivals'][Rival]][])
      if (modelBetterBy.value < 0) out.push(msg('modelCard.didBetter', { where: capital(where), name: rivalName(name) }));
  }
  return out;
}

/** All that is known of how good a fit is: what it rests on, how it did on what it had not seen, and where it is weak. */
export function ModelCard({ scores, onClose }: { scores: ScoreCard; onClose: () => void }) {
  const { species, water } = useWaterState();
  const strategies = strategiesOf(water);
  const weak = weakSpots(scores);
  const [first] = scores.made;
  const years = scores.years.filter((y) => y.looks > 0);
  return (
    <Dialog title={msg('modelCard.modelCard', { name: term(species.name), name2: water.name })} onClose={onClose}>
      <p className="num text-sm">{msg('modelCard.scoredOnScansOf', { looks: grouped(first.model.looks), trips: first.model.trips })}</p>
      <table className="num mt-2 w-full text-right text-sm" data-testid="card">
        <thead>
          <tr className="text-mute">
            <th className="text-left font-normal">{msg('modelCard.heldOut')}</th>
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
              [msg('modelCard.logScoreNatsPer'), (m) => logScoreGain(m.model.logScore)],
              [msg('modelCard.brierScore'), (m) => decimal(m.model.brier, 4)],
              [msg('modelCard.areaUnderTheCurve'), (m) => decimal(m.model.auc, 2)],
              [msg('modelCard.expectedOverSeen'), (m) => decimal(m.model.expectedOverSeen, 2)],
              [msg('modelCard.calibrationSlope'), (m) => decimal(m.model.slope, 2)],
              [msg('modelCard.heldByTheBest'), (m) => percent(m.bestTenth.model)],
              ...(['base rate', 'hot spots', 'strategies', ...strategies] as Rival[]).map((r): [string, (m: HeldScores) => string] => [
                msg('modelCard.betterThanBy', { r: rivalName(r) }),
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
          <h3 className="mt-3 text-sm font-bold">{msg('modelCard.theStrategiesSeasonBy')}</h3>
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
              {strategies.map((strategy) => (
                <tr key={strategy} className="border-t border-line">
                  <th scope="row" className="text-left font-normal">
                    {strategyName(strategy)}
                  </th>
                  {years.map((y) => (
                    <td key={y.year}>{logScoreGain(y.strategies.find((s) => s.strategy === strategy)!.better.value)}</td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
      <h3 className="mt-3 text-sm font-bold">{msg('modelCard.weakSpots')}</h3>
      {weak.length ? (
        <ul className="list-disc pl-5 text-sm">
          {weak.map((w) => (
            <li key={w}>{w}</li>
          ))}
        </ul>
      ) : (
        <p className="text-sm text-mute">{msg('modelCard.noneInTheseScores')}</p>
      )}
    </Dialog>
  );
}

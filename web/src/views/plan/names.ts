import type { DayPlanAnswer } from '@restless-shoal/core/passage';
import type { PlanPlace } from '../../api/queries';
import { capital, say } from '../../words';

/** A spot with the name it goes by. */
export interface NamedSpot {
  id: string;
  name: string;
  depth: number | null;
  /** Null where nothing forecasts it. */
  chance: number | null;
  /** Days since it was last fished; null: never, as far as is logged. */
  fishedDaysAgo: number | null;
}

/** Names of the spots of a plan: as the forecast words them, or as its owner did. */
export function namesOf(answer: DayPlanAnswer | null, own: PlanPlace[]): (id: string) => NamedSpot {
  const byId = new Map(
    (answer?.spots ?? []).map(({ id, place, depth, chance, pressure }): [string, NamedSpot] => [
      id,
      {
        id,
        name: place ? capital(say(place.name)) : (own.find((o) => o.id === id)?.name ?? ''),
        depth,
        chance,
        fishedDaysAgo: pressure.days,
      },
    ]),
  );
  return (id) => byId.get(id) ?? { id, name: '', depth: null, chance: null, fishedDaysAgo: null };
}

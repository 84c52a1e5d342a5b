import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { DayPlan } from '@restless-shoal/core/contract';
import { dayPlanQuery, planQuery, type PlanPlace } from '../api/queries';
import { appliedDayPlan, appliedPlan, since } from '../offline/apply';
import { useOutbox } from '../offline/device';

/** Places to go to on a water, with those put there without a signal; undefined until they are known. */
export function usePlan(water: string): { data: PlanPlace[] | undefined } {
  const { data } = useQuery(planQuery(water));
  const kept = useOutbox();
  return { data: useMemo(() => data && appliedPlan(data.list, water, since(kept, data.asOf)), [data, water, kept]) };
}

/** The plan of the day, also one that has not reached the server yet; undefined until it is known, null while there is none. */
export function useDayPlan(water: string): DayPlan | null | undefined {
  const { data } = useQuery(dayPlanQuery(water));
  const kept = useOutbox();
  return useMemo(() => data && appliedDayPlan(data.list, water, since(kept, data.asOf)), [data, water, kept]);
}

import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { planQuery, type PlanPlace } from '../api/queries';
import { appliedPlan, since } from '../offline/apply';
import { useOutbox } from '../offline/device';

/** Places to go to on a water, with those put there without a signal; undefined until they are known. */
export function usePlan(water: string): { data: PlanPlace[] | undefined } {
  const { data } = useQuery(planQuery(water));
  const kept = useOutbox();
  return { data: useMemo(() => data && appliedPlan(data.list, water, since(kept, data.asOf)), [data, water, kept]) };
}

/** The code of the views, which comes when one is opened. */
export const views = {
  brief: () => import('./brief'),
  chart: () => import('./chart'),
  patterns: () => import('./patterns'),
  waters: () => import('./waters'),
  forecast: () => import('./forecast'),
  logbook: () => import('./logbook'),
  bench: () => import('./bench'),
  plan: () => import('./plan'),
};

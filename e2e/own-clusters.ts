import { useOwnClusters } from './shared-cluster';

/** For the tests of a file: each data folder has a PostgreSQL of its own. */
export function eachItsOwnCluster(): void {
  // A process runs several files, one after the other.
  before(() => useOwnClusters(true));
  after(() => useOwnClusters(false));
}

export {
  type Clusters,
  type ClusterUrls,
  clustersIn,
  databaseOf,
  MAIN_CLUSTER,
  readClusters,
  withDatabase,
} from './clusters.ts';
export { prepareRegistry, type RegisteredSchool, registryStore } from './registry.store.ts';
export { type RunningSchools, startSchools } from './start-schools.ts';

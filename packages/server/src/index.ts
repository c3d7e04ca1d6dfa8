export { lookAtArchive, makeArchive, openArchive, refersOf, takeArchive } from './archives/index.ts';
export { deliverDue } from './receivers/index.ts';
export { classesService } from './classes/index.ts';
export { bytesOf, FONT_FILES, fontFile } from './pdf/index.ts';
export { hashOfPin } from './bench-devices/index.ts';
export { revisionHash } from './attempts/index.ts';
export { type Config, isLoopback, readConfig } from './config.ts';
export { type Database, openDatabase } from './database/database.ts';
export { engineSays } from './faces/index.ts';
export { type Reader, readerOf } from './database/standby.ts';
export { AppError } from './errors/app-error.ts';
export { migrate } from './database/migrate.ts';
export { type Running, startServer } from './main.ts';
export { packsService, packText, sheetDigest, syncShippedMethods } from './methods/index.ts';
export { bringPicturesBack, movePictures, objectStorage } from './pictures/index.ts';
export { peopleService } from './people/index.ts';
export { filterCondition, lossesOf, lossesStore, lossSeries, resultsOf } from './results/index.ts';
export {
  type Clusters,
  type ClusterUrls,
  clustersIn,
  databaseOf,
  MAIN_CLUSTER,
  prepareRegistry,
  readClusters,
  type RegisteredSchool,
  registryStore,
  type RunningSchools,
  startSchools,
  withDatabase,
} from './schools/index.ts';
export { prepareNewSchool } from './school.ts';
export { sql } from './database/sql.ts';
export { whatIfService } from './what-if/index.ts';
export { storesForLoading } from './loading.ts';
export {
  type Anchor,
  keepDailyHeads,
  night,
  rebuildOutcomes,
  recordHash,
  safekeepingService,
  safekeepingStore,
  verifyRecords,
  verifyStore,
} from './safekeeping/index.ts';

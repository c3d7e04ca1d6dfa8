import { attemptsStore, entriesStore, signWithin } from './attempts/index.ts';
import { benchDevicesStore } from './bench-devices/index.ts';
import { callsStore } from './calls/index.ts';
import { classesStore, cordChecksStore, linksStore } from './classes/index.ts';
import { courseStore } from './course/index.ts';
import { facesStore } from './faces/index.ts';
import type { Database } from './database/database.ts';
import { instrumentsStore } from './instruments/index.ts';
import { peopleStore } from './people/index.ts';
import { referencesStore } from './references/index.ts';
import { stockStore } from './stock/index.ts';

type Tail<T extends readonly unknown[]> = T extends readonly [unknown, ...infer Rest] ? Rest : never;

/** The stores and the signing that a loader of whole classes works through: the demo, later an archive. */
export const storesForLoading = (db: Database) => ({
  people: peopleStore(db),
  benchDevices: benchDevicesStore(db),
  classes: classesStore(db),
  cordChecks: cordChecksStore(db),
  attempts: attemptsStore(db),
  entries: entriesStore(db),
  references: referencesStore(db),
  links: linksStore(db),
  faces: facesStore(db),
  calls: callsStore(db),
  instruments: instrumentsStore(db),
  stock: stockStore(db),
  course: courseStore(db),
  /**
   * Within the loader’s own transaction: a savepoint for each attempt would have every foreign key share-lock the
   * same rows under a new sub-transaction.
   */
  sign: (...args: Tail<Parameters<typeof signWithin>>) => signWithin(db, ...args),
});

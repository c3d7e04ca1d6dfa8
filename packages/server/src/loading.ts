import { attemptsStore, entriesStore, signService } from './attempts/index.ts';
import { classesStore } from './classes/index.ts';
import type { Database } from './database/database.ts';
import { peopleStore } from './people/index.ts';
import { referencesStore } from './references/index.ts';

/** The stores and the signing that a loader of whole classes works through: the demo, later an archive. */
export const storesForLoading = (db: Database) => ({
  people: peopleStore(db),
  classes: classesStore(db),
  attempts: attemptsStore(db),
  entries: entriesStore(db),
  references: referencesStore(db),
  signing: signService(db),
});

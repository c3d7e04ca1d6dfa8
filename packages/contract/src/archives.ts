import { z } from 'zod';
import { Day, Id, oneOf, ROLES } from './common.ts';

/** What taking an archive in would do, or did. */
export const ArchiveOutlook = z.object({
  classId: Id,
  className: z.string(),
  place: z.string(),
  startsOn: Day,
  endsOn: Day,
  madeAt: z.string(),
  /** The class is here already, with the same content: nothing is done. */
  here: z.boolean(),
  trainees: z.number().int(),
  pieces: z.number().int(),
  records: z.number().int(),
  entries: z.number().int(),
  pictures: z.number().int(),
  /** Accounts: new ones are closed until a lead opens them; others are here under this name. */
  people: z.array(
    z.object({
      name: z.string(),
      role: oneOf(ROLES),
      is: oneOf(['new', 'here']),
      nameHere: z.string().nullable(),
    }),
  ),
  /**
   * Versions of methods: the class goes on with the same version of this school, with the version that comes in force here,
   * or the version stays for the records only.
   */
  methods: z.array(
    z.object({ title: z.string(), version: z.number().int(), is: oneOf(['same', 'new', 'records_only']) }),
  ),
});
export type ArchiveOutlook = z.infer<typeof ArchiveOutlook>;

export const ARCHIVE_PATHS = {
  make: '/api/classes/:id/archive.zip',
  look: '/api/archives/look',
  take: '/api/archives/take',
} as const;
/** The largest archive that is taken, bytes as they are sent. */
export const MOST_ARCHIVE_BYTES = 2 * 1024 ** 3;

import { z } from 'zod';
import { Name } from './common.ts';
import { ById, route } from './route.ts';

const count = z.number().int().min(0);

/** What is taken away when a person is erased. */
export const Erased = z.object({
  /** What stands in place of the name from then on. */
  token: z.string(),
  notes: count,
  lateNotes: count,
  reasons: count,
  gradings: count,
  labels: count,
  pictures: count,
  /** Pictures that are also a picture of somebody else's work: they stay. */
  sharedPictures: count,
});
export type Erased = z.infer<typeof Erased>;

/** What an erasure would find. */
export const ErasureOutlook = Erased.omit({ token: true, lateNotes: true, labels: true }).extend({
  name: z.string(),
  pieces: count,
  /** Pieces that are still scored: they are signed or withdrawn first. */
  openPieces: z.array(z.string()),
});
export type ErasureOutlook = z.infer<typeof ErasureOutlook>;

export const HELD_ROUTES = {
  erasureOutlook: route('get /accounts/:id/erasure', 'lead', {
    params: ById,
    reply: ErasureOutlook,
    errors: ['not_found.person', 'account.erased'],
  }),
  /** Cannot be taken back. The name is typed again, so that nobody is erased by a slip. */
  erasePerson: route('post /accounts/:id/erasure', 'lead', {
    params: ById,
    body: z.object({ name: Name }),
    reply: Erased,
    errors: [
      'not_found.person',
      'account.erased',
      'account.last_lead',
      'account.own',
      'account.other_name',
      'class.open_attempts',
    ],
  }),
} as const;

/** All that is held about a person: a ZIP file with JSON, a page to read, and the pictures. */
export const HELD_PATHS = { person: '/api/accounts/:id/held.zip', own: '/api/me/held.zip' } as const;
export const heldPath = (id: string): string => HELD_PATHS.person.replace(':id', id);

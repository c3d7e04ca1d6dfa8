import { randomBytes } from 'node:crypto';
import type { Erased, ErasureOutlook, Person } from '@clear-mark/contract';
import { apiTokensStore } from '../api-tokens/index.ts';
import { record } from '../audit/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { type AccountRow, accountsStore, requireOtherLead, triesOf, withAccount } from '../people/index.ts';
import { eraseStore } from './erase.store.ts';
import { greyPng } from './grey-png.ts';

/** Shorter parts of a name stand in too many labels by chance. */
const LEAST_PART = 3;

/** Takes away what names a person; what was scored, and every record that was signed, stays and can still be checked. */
export const eraseService = (db: Database) => ({
  outlook: async (id: string): Promise<ErasureOutlook> => {
    const store = eraseStore(db);
    const account = await accountsStore(db).byId(id);
    if (!account) throw new AppError('not_found.person');
    if (account.erased) throw new AppError('account.erased');
    const pictures = await store.pictures(id);
    return {
      ...(await store.outlook(id)),
      name: account.name,
      pictures: pictures.filter((p) => !p.shared).length,
      sharedPictures: pictures.filter((p) => p.shared).length,
      openPieces: await store.openPieces(id),
    };
  },

  erase: (id: string, typed: string, me: Person): Promise<Erased> =>
    withAccount(db, id, async (trx, account) => {
      const store = eraseStore(trx);
      if (account.erased) throw new AppError('account.erased');
      if (id === me.id) throw new AppError('account.own');
      if (typed !== account.name) throw new AppError('account.other_name');
      await requireOtherLead(trx, account, null);
      const open = await store.openPieces(id);
      if (open.length > 0)
        throw new AppError('class.open_attempts', {
          name: account.name,
          pieces: open.slice(0, 5).join(', '),
        });
      const sign = randomBytes(4).toString('hex').toUpperCase();
      const token = `Erased person ${sign}`;
      const texts = await store.eraseTexts(id, token, partsOf(account));
      const pictures = await store.pictures(id);
      for (const { sha256, width, height, shared } of pictures)
        if (!shared) await store.replacePicture(sha256, greyPng(width, height));
      await accountsStore(trx).dropCode(id);
      await accountsStore(trx).endSessions(id, null);
      await apiTokensStore(trx).endAll(id);
      await triesOf(trx).forgetAccount(account.login);
      await store.eraseAccount(id, token, `erased-${sign.toLowerCase()}`);
      const erased = {
        token,
        ...texts,
        pictures: pictures.filter((p) => !p.shared).length,
        sharedPictures: pictures.filter((p) => p.shared).length,
      };
      const detail = `${erased.notes + erased.lateNotes} notes, ${erased.reasons} reasons, ${erased.pictures} pictures`;
      await record(trx, { kind: 'person_erased', by: me.id, person: id, detail });
      return erased;
    }),
});

/** Patterns of what a label may hold of a person's name: each part of it, and the sign-in name. */
function partsOf({ name, login }: AccountRow): string[] {
  const parts = [...name.split(/[\s,]+/), login].map((part) => part.toLowerCase());
  return parts
    .filter((part) => part.length >= LEAST_PART)
    .map((part) => `%${part.replace(/[\\%_]/g, String.raw`\$&`)}%`);
}

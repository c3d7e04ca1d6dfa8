import type { Person } from '@clear-mark/contract';
import { codeMail } from '@clear-mark/words';
import { record } from '../audit/index.ts';
import { sha256 } from '../chain/index.ts';
import type { MailSettings } from '../config.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { sendMail } from '../mail/index.ts';
import { grouped, withLivingAccount } from './accounts.service.ts';
import { accountsStore } from './accounts.store.ts';

export interface CodeToMail {
  readonly id: string;
  readonly code: string;
  readonly to: string;
  /** What the school is reached by. */
  readonly origin: string;
}

/** Sends a code that holds to an address, which is not kept. Errors: `account.bad_code`, `mail.*`. */
export async function mailCode(
  db: Database,
  { id, code, to, origin }: CodeToMail,
  mail: MailSettings | null,
  me: Person,
  now: Date,
): Promise<void> {
  if (mail === null) throw new AppError('mail.not_set_up');
  const { account, until } = await withLivingAccount(db, id, async (trx, found) => {
    const holds = await accountsStore(trx).codeHolds(id, sha256(code), now);
    if (holds === null) throw new AppError('account.bad_code');
    // The trail has the order: what the mail server makes of it is told to whoever gave it.
    await record(trx, { kind: 'account_mailed', by: me.id, person: id });
    return { account: found, until: holds };
  });
  const words = codeMail({
    name: account.name,
    from: me.name,
    address: `${origin}/join#${grouped(code)}`,
    code: grouped(code),
    until,
    again: account.signsIn,
  });
  await sendMail(mail, { to, ...words });
}

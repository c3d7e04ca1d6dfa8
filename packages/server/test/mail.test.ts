import type { AuditEvent, GivenCode, Person } from '@clear-mark/contract';
import { startMailbox } from '@clear-mark/standins';
import { v7 } from 'uuid';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { type Caller, World } from './harness.ts';

interface Came {
  readonly from: string;
  readonly to: readonly string[];
  readonly text: string;
}
let mails: Came[] = [];
let mailbox: Awaited<ReturnType<typeof startMailbox>>;
let world: World;
let without: World;
let lead: Person;
let asLead: Caller;

beforeAll(async () => {
  mailbox = await startMailbox({
    onMail: (mail) => void mails.push(mail),
    refuses: (to) => to.startsWith('nobody@'),
  });
  const mail = { server: `smtp://127.0.0.1:${mailbox.port}`, from: 'Clear Mark <marks@school.example>' };
  world = await World.make(undefined, undefined, { mail });
  without = await World.make();
  lead = await world.person('lead', 'Ruta Almqvist');
  asLead = await world.signedIn(lead);
});
afterAll(async () => {
  await world.close();
  await without.close();
  await mailbox.stop();
});
beforeEach(() => {
  mails = [];
});

const invited = async (name = 'Odalys Venn'): Promise<{ id: string; given: GivenCode }> => {
  const id = v7();
  const reply = await asLead.post('/accounts', { id, name, role: 'instructor' });
  return { id, given: reply.body as GivenCode };
};
const send = (id: string, code: string, to: string, as = asLead) =>
  as.post(`/accounts/${id}/code/mail`, { code, to });
/** The words of a mail, its lines put together again (RFC 2045, quoted-printable). */
const wordsOf = ({ text }: Came): string =>
  text
    .replace(/=\r?\n/g, '')
    .replace(/=([0-9A-F]{2})/g, (_, hex: string) => String.fromCharCode(Number.parseInt(hex, 16)));

describe('a code by mail', () => {
  it('comes with an address that opens the account, and the address is kept nowhere', async () => {
    const { id, given } = await invited();
    expect(given.mail).toBe(true);
    expect((await send(id, given.code, 'venn@post.example')).status).toBe(200);
    expect(mails).toHaveLength(1);
    expect(mails[0]).toMatchObject({ from: 'marks@school.example', to: ['venn@post.example'] });
    const words = wordsOf(mails[0]!);
    expect(words).toContain('Odalys Venn');
    expect(words).toContain('Ruta Almqvist invites you');
    const [, address] = /(http:\/\/127\.0\.0\.1:\d+\/join#[A-Z0-9-]+)/.exec(words)!;
    expect(address).toBe(`${world.server.url}/join#${given.code}`);
    const joined = await world
      .caller()
      .post('/join', { code: address!.split('#')[1], login: 'venn', password: 'seven quiet lanterns' });
    expect(joined.body).toMatchObject({ id, login: 'venn' });
    const { rows } = await world.owner.raw('select t::text from audit_events t');
    expect(JSON.stringify(rows)).not.toContain('post.example');
    const { events } = (await asLead.get('/audit?kind=account_mailed')).body as { events: AuditEvent[] };
    expect(events[0]).toMatchObject({ by: lead.name, person: 'Odalys Venn' });
  });

  it('for a new password says so', async () => {
    const { id, given } = await invited('Marit Uldal');
    await world
      .caller()
      .post('/join', { code: given.code, login: 'uldal', password: 'seven quiet lanterns' });
    const again = (await asLead.post(`/accounts/${id}/code`, {})).body as GivenCode;
    expect((await send(id, again.code, 'uldal@post.example')).status).toBe(200);
    expect(wordsOf(mails[0]!)).toContain('choose a new password');
  });

  it('is for the person of the code alone, and only while it holds', async () => {
    const one = await invited('Bran Eskil');
    const other = await invited('Solveig Tarn');
    expect((await send(one.id, other.given.code, 'x@post.example')).problem.code).toBe('account.bad_code');
    await asLead.call('DELETE', `/accounts/${one.id}/code`);
    expect((await send(one.id, one.given.code, 'x@post.example')).problem.code).toBe('account.bad_code');
    expect((await send(v7(), one.given.code, 'x@post.example')).problem.code).toBe('not_found.person');
    expect((await send(other.id, other.given.code, 'no address')).status).toBe(422);
    expect((await send(other.id, other.given.code, 'a@b.example\r\nBcc: c@d.example')).status).toBe(422);
    expect(mails).toEqual([]);
  });

  it('that the mail server refuses is told with its answer, and the code still holds', async () => {
    const { id, given } = await invited('Ilse Havn');
    const reply = await send(id, given.code, 'nobody@post.example');
    expect([reply.status, reply.problem.code]).toEqual([502, 'mail.refused']);
    expect(reply.problem.detail).toContain('550 no such mailbox here');
    expect((await world.caller().post('/join/look', { code: given.code })).status).toBe(200);
  });

  it('is offered nowhere without a mail server, nor to instructors', async () => {
    const there = await without.signedIn(await without.person('lead'));
    const id = v7();
    const given = (await there.post('/accounts', { id, name: 'Ola Rem', role: 'trainee' })).body as GivenCode;
    expect(given.mail).toBe(false);
    expect((await send(id, given.code, 'rem@post.example', there)).problem.code).toBe('mail.not_set_up');
    const teacher = await world.signedIn(await world.person('instructor'));
    expect((await send(id, given.code, 'rem@post.example', teacher)).status).toBe(403);
  });
});

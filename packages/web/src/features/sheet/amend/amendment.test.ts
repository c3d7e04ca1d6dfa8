// @vitest-environment happy-dom
import { DEFAULT_POLICY, DEFAULT_SCORING, type Entry, score } from '@clear-mark/core';
import {
  type AttemptDocument,
  type LateEntry,
  type Revision,
  ROUTES,
  type StoredEntry,
} from '@clear-mark/contract';
import { LC_WEDGE_LOCATOR } from '@clear-mark/methods';
import { describe, expect, it } from 'vitest';
import {
  CLASS,
  freshPages,
  holds,
  id,
  openPage,
  pressAnywhere,
  settled,
  shows,
  TestServer,
} from '../../../../test/page.ts';
import LocalRows from '../LocalRows.vue';
import AmendPage from './AmendPage.vue';
import { changesOf, revisionChanges, withLate } from './amendment.model.ts';
import RevisionList from './RevisionList.vue';

freshPages();

const SHEET = LC_WEDGE_LOCATOR;
const GLASSES = 'clear-mark/lc-wedge-locator/glasses';
const entry = (n: number, passed: boolean, more: Partial<Entry> = {}): StoredEntry =>
  ({
    id: id(n),
    kind: 'value',
    criterionId: GLASSES,
    part: '',
    value: { kind: 'check', passed },
    voidReason: null,
    note: null,
    authorId: id(1),
    capacity: 'instructor',
    deviceId: id(9),
    source: 'typed',
    at: '2026-03-02T09:00:00.000Z',
    supersedes: [],
    targetId: null,
    ...more,
  }) as StoredEntry;
const revision = (n: number, entries: readonly Entry[], more: Partial<Revision> = {}): Revision => ({
  revision: n,
  kind: 'signed_incomplete',
  signedAt: '2026-03-02T10:00:00.000Z',
  signedBy: 'Ysolde Brack',
  reason: 'Fire drill',
  hash: 'a'.repeat(64),
  previousHash: null,
  lastSeq: entries.length,
  outcome: score(SHEET, entries, { ...DEFAULT_SCORING, final: true }),
  ...more,
});
const FIRST = [entry(50, false)];
const late = (n: number, passed: boolean): LateEntry =>
  ({
    ...entry(n, passed, { authorId: id(2) }),
    attemptId: id(5),
    authorName: 'Torvin Hale',
    receivedAt: '2026-03-02T11:00:00.000Z',
  }) as LateEntry;
const document = (more: Partial<AttemptDocument> = {}): AttemptDocument => ({
  attempt: {
    id: id(5),
    classId: CLASS,
    traineeId: id(2),
    traineeName: 'Torvin Hale',
    methodVersionId: id(6),
    pieceId: id(7),
    pieceLabel: 'T-07',
    startedAt: '2026-03-02T09:00:00.000Z',
    state: 'signed',
    claimedStartedAt: null,
    things: [],
  },
  sheet: SHEET,
  policy: DEFAULT_POLICY,
  timeZone: 'UTC',
  entries: FIRST,
  references: [],
  revisions: [revision(1, FIRST)],
  late: [],
  notices: [],
  ...more,
});

describe('what an amendment changes', () => {
  it('says what stood and what stands, the last of a place once', () => {
    const added = [entry(51, true), entry(52, true)];
    expect(changesOf(SHEET, FIRST, added)).toEqual([
      { id: id(52), label: expect.stringMatching(/glasses/i), was: 'fail', now: 'pass' },
    ]);
    expect(changesOf(SHEET, [], [entry(51, true)])[0]).toMatchObject({ was: 'no result', now: 'pass' });
  });
  it('a late entry that is taken supersedes what stands; one that is left out is not there', () => {
    const there = withLate(FIRST, [late(60, true), late(61, false)], new Set([id(60)]));
    expect(there.map((e) => [e.id, e.supersedes])).toEqual([
      [id(50), []],
      [id(60), [id(50)]],
    ]);
  });
  it('a revision is told by the entries that came with it', () => {
    const entries = [...FIRST, entry(51, true, { supersedes: [id(50)] })];
    const revisions = [revision(1, FIRST), revision(2, entries)];
    expect(revisionChanges(SHEET, entries, revisions, revisions[0]!)).toEqual([]);
    expect(revisionChanges(SHEET, entries, revisions, revisions[1]!)).toMatchObject([
      { was: 'fail', now: 'pass' },
    ]);
  });
});

describe('the page of an amendment', () => {
  const open = (found: AttemptDocument, server = new TestServer()) => {
    server.on(ROUTES.attempt, found);
    return openPage(AmendPage, { props: { classId: CLASS, attemptId: id(5) } });
  };
  it('judges while it is written, needs a reason, and sends what was entered once', async () => {
    const server = new TestServer().on(ROUTES.amend, revision(2, FIRST));
    const { page, button, press, router } = await open(document(), server);
    await shows(page, 'Nothing yet');
    const rows = page.getComponent(LocalRows);
    rows.vm.$emit('value', GLASSES, '', { kind: 'check', passed: true });
    rows.vm.$emit('value', GLASSES, '', { kind: 'check', passed: true });
    await settled();
    expect(page.get('[data-test=changes]').text()).toContain('fail pass');
    expect(button('Sign the amendment').attributes('disabled')).toBeDefined();
    await page.get('#amend-reason').setValue('Seen on the video');
    await press('Sign the amendment');
    await holds(() => expect(server.of(ROUTES.amend)).toHaveLength(1));
    expect(server.of(ROUTES.amend)[0]!.body).toMatchObject({
      fromRevision: 1,
      late: [],
      entries: [{ criterionId: GLASSES, kind: 'value', value: { kind: 'check', passed: true } }],
      reason: 'Seen on the video',
      asVoid: false,
    });
    await holds(() => expect(router.currentRoute.value.name).toBe('sheet'));
  });
  it('a check is passed, failed with its fault, or not seen, from its chosen row', async () => {
    const { page, press } = await open(document());
    await shows(page, 'Nothing yet');
    page.getComponent(LocalRows).vm.$emit('choose', GLASSES);
    await settled();
    const says = () => page.get('[data-test=changes]').text();
    await press('Pass');
    expect(says()).toContain('fail pass');
    await press('Not seen');
    expect(says()).toContain('fail not seen');
    await press('Fail');
    expect(page.get('[data-test=amended-verdict]').text()).toMatch(/Fail.*Fail/);
  });
  it('a change is taken back before it is signed', async () => {
    const { page, press } = await open(document());
    await shows(page, 'Nothing yet');
    page.getComponent(LocalRows).vm.$emit('value', GLASSES, '', { kind: 'check', passed: true });
    await settled();
    const label = page.get('[data-test=changes] button').attributes('aria-label')!;
    await press(label);
    expect(page.get('[data-test=changes]').text()).toContain('Nothing yet');
  });
  it('what came late is offered with its author, taken or left out', async () => {
    const server = new TestServer().on(ROUTES.amend, revision(2, FIRST));
    const { page, press } = await open(document({ late: [late(60, true), late(61, true)] }), server);
    await shows(page, 'Torvin Hale');
    await page.findAll('[data-test=late] input[role=switch]')[0]!.trigger('change');
    await settled();
    await page.get('#amend-reason').setValue('Handed in later');
    await press('Sign the amendment');
    await holds(() => expect(server.of(ROUTES.amend)).toHaveLength(1));
    expect(server.of(ROUTES.amend)[0]!.body).toMatchObject({
      late: [
        { id: id(60), take: true },
        { id: id(61), take: false },
      ],
    });
  });
  it('amended meanwhile by somebody else: it is told, and opened again', async () => {
    const server = new TestServer().refuse(ROUTES.amend, 409, 'amend.moved', 'The record was amended.');
    const { page, press } = await open(document(), server);
    await shows(page, 'Nothing yet');
    page.getComponent(LocalRows).vm.$emit('value', GLASSES, '', { kind: 'check', passed: true });
    await page.get('#amend-reason').setValue('x');
    await press('Sign the amendment');
    await shows(page, 'The record was amended.');
    await pressAnywhere('Open it again');
    expect(server.of(ROUTES.attempt).length).toBeGreaterThan(1);
  });
  it('an open piece leads to its sheet', async () => {
    const found = document({ attempt: { ...document().attempt, state: 'open' }, revisions: [] });
    expect((await open(found)).page.text()).toContain('This piece is not signed');
  });
});

it('the record says what each amendment changed, the newest first', async () => {
  const entries = [...FIRST, entry(51, true, { supersedes: [id(50)] })];
  const revisions = [
    revision(1, FIRST),
    revision(2, entries, { kind: 'amended', reason: 'Seen on the video' }),
  ];
  const { page } = await openPage(RevisionList, { props: { document: document({ entries, revisions }) } });
  const text = page.text();
  expect(text.indexOf('Amended')).toBeLessThan(text.indexOf('Signed incomplete'));
  expect(text).toContain('Seen on the video');
  expect(page.find('s').text()).toBe('fail');
});

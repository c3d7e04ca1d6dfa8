// @vitest-environment happy-dom
import type { LinkTestOfClass } from '@clear-mark/contract';
import { flushPromises, mount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { forgetReplies } from '../../../api/queries.ts';
import LinkTestsSection from './LinkTestsSection.vue';

const test = (n: number, lossDb: number | null): LinkTestOfClass => ({
  attemptId: `00000000-0000-4000-8000-00000000000${n}`,
  traineeName: `Trainee ${n}`,
  pieceLabel: `T-0${n}`,
  at: `2026-03-0${n}T10:00:00.000Z`,
  uncertaintyDb: 0.15,
  readings: [
    {
      wavelengthNm: 1310,
      direction: null,
      fiber: null,
      lossDb,
      limitDb: 0.75,
      mark: lossDb === null ? 'F' : 'P',
    },
  ],
});

async function shown(status: number, body: unknown) {
  const headers = { 'content-type': status === 200 ? 'application/json' : 'application/problem+json' };
  vi.stubGlobal('fetch', () => Promise.resolve(new Response(JSON.stringify(body), { status, headers })));
  const section = mount(LinkTestsSection, {
    props: {
      classId: '00000000-0000-4000-8000-0000000000c1',
      linkId: '00000000-0000-4000-8000-0000000000a1',
    },
    attachTo: document.body,
  });
  await flushPromises();
  return section;
}

beforeEach(() => setActivePinia(createPinia()));
afterEach(() => {
  document.body.innerHTML = '';
  forgetReplies();
  vi.unstubAllGlobals();
});

describe('the tests of a link, before and after', () => {
  it('none yet says where one is made', async () =>
    expect((await shown(200, [])).text()).toContain('Start a loss test on it from Today'));
  it('one alone has nothing to be compared with', async () =>
    expect((await shown(200, [test(1, 0.4)])).text()).toContain('One signed test so far'));
  it('the newest two stand side by side, with what changed', async () => {
    const words = (await shown(200, [test(2, 0.41), test(1, 0.92)])).text();
    expect(words).toMatch(/0\.92.*0\.41/s);
    expect(words).toContain('better by 0.51 dB');
  });
  it('light that was lost is said so', async () =>
    expect((await shown(200, [test(2, null), test(1, 0.4)])).text()).toContain('light lost'));
  it('what the server refuses is told', async () => {
    const problem = {
      type: 'x',
      title: 'x',
      status: 403,
      detail: 'Not of this class.',
      code: 'auth.not_in_class',
      params: {},
    };
    const section = await shown(403, problem);
    await vi.waitFor(() => expect(section.get('[role=alert]').text()).toBe('Not of this class.'));
  });
});

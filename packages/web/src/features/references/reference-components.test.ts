// @vitest-environment happy-dom
import type { ClassReference } from '@clear-mark/contract';
import { flushPromises, mount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import ReferencesPanel from './ReferencesPanel.vue';
import RereadDialog from './RereadDialog.vue';
import { useClassroom } from '../../classroom/use-classroom.ts';

const reference = (more: Partial<ClassReference> = {}): ClassReference => ({
  id: '00000000-0000-4000-8000-000000000001',
  method: 'breakout',
  wavelengthNm: 1310,
  valueDbm: '-5.00',
  setAt: new Date().toISOString(),
  showsNegative: false,
  rereadDbm: null,
  voidReason: null,
  leg: 3,
  light: 'transceiver',
  instrumentId: '00000000-0000-4000-8000-000000000002',
  instrumentLabel: 'Meter 1',
  ...more,
});
const answers = (status: number, body: unknown) =>
  vi.fn(() =>
    Promise.resolve(
      new Response(JSON.stringify(body), {
        status,
        headers: { 'content-type': status === 200 ? 'application/json' : 'application/problem+json' },
      }),
    ),
  );

beforeEach(() => setActivePinia(createPinia()));
afterEach(() => {
  document.body.innerHTML = '';
  vi.unstubAllGlobals();
});

const opened = async (list: readonly ClassReference[] = [reference()]) => {
  const dialog = mount(RereadDialog, {
    props: { classId: '00000000-0000-4000-8000-000000000003', references: list, mostDriftDb: 0.1 },
    attachTo: document.body,
  });
  await flushPromises();
  return dialog;
};
const typed = async (text: string): Promise<void> => {
  const input = document.querySelector<HTMLInputElement>('[data-test=reread] input, .el-dialog input')!;
  input.value = text;
  input.dispatchEvent(new Event('input'));
  await flushPromises();
};
const button = (words: string): HTMLButtonElement =>
  [...document.querySelectorAll('button')].find((b) => b.textContent.includes(words))!;

describe('a reference read again', () => {
  it('names what was set: level, instrument, method, leg and light', async () => {
    await opened();
    expect(document.body.textContent).toMatch(/1310 nm, leg 3/);
    expect(document.body.textContent).toMatch(/-5.00 dBm, Meter 1/);
    expect(document.body.textContent).toContain('transceiver');
  });

  it('says what it moved by before it is kept', async () => {
    await opened();
    expect(button('Save what was read').disabled).toBe(true);
    await typed('-4,95');
    expect(document.body.textContent).toContain('+0.05 dB');
    expect(document.body.textContent).toContain('holds');
    await typed('-4.80');
    expect(document.body.textContent).toContain('moved too far');
    expect(button('Save what was read').disabled).toBe(false);
    await typed('-4.8x');
    expect(document.body.textContent).toContain('“-4.8x” is not a level');
    expect(button('Save what was read').disabled).toBe(true);
  });

  it('is sent, and closes once it is there', async () => {
    const changed = reference({ rereadDbm: '-4.95' });
    const fetching = answers(200, changed);
    vi.stubGlobal('fetch', fetching);
    const dialog = await opened();
    await typed('-4.95');
    button('Save what was read').click();
    await flushPromises();
    const [, request] = fetching.mock.calls[0] as unknown as [string, RequestInit];
    expect(JSON.parse(request.body as string)).toMatchObject({ change: 'reread', valueDbm: '-4.95' });
    expect(dialog.emitted('changed')?.[0]).toMatchObject([{ rereadDbm: '-4.95' }]);
    expect(dialog.emitted('close')).toHaveLength(1);
  });

  it('that is not taken stays open with its text and says why', async () => {
    const problem = {
      type: 'x',
      title: 'x',
      status: 403,
      detail: 'No',
      code: 'auth.not_in_class',
      params: {},
    };
    vi.stubGlobal('fetch', answers(403, problem));
    const dialog = await opened();
    await typed('-4.95');
    button('Save what was read').click();
    await flushPromises();
    expect(document.querySelector('[role=alert]')!.textContent).not.toBe('');
    expect(dialog.emitted('close')).toBeUndefined();
    expect(document.querySelector<HTMLInputElement>('.el-dialog input')!.value).toBe('-4.95');
  });

  it('that is void is shown, and nothing is asked of it', async () => {
    await opened([reference({ voidReason: 'launch_cord_taken_off' })]);
    expect(document.body.textContent).toContain('Void: the launch cord was taken off the source');
    expect(document.querySelector<HTMLInputElement>('.el-dialog input')!.disabled).toBe(true);
  });

  it('of none there is nothing to read', async () => {
    await opened([]);
    expect(document.body.textContent).toContain('No reference was set yet.');
  });
});

describe('the references of the day', () => {
  const panel = async (list: readonly ClassReference[]) => {
    useClassroom().references = list;
    const shown = mount(ReferencesPanel, { props: { classId: 'c' }, attachTo: document.body });
    await flushPromises();
    return shown;
  };
  it('without any, say where one is set', async () => {
    const shown = await panel([]);
    expect(shown.text()).toContain('It is set on the sheet of a loss test.');
    expect(shown.find('[data-test=reread-all]').exists()).toBe(false);
  });
  it('each with its state, and one button for all that are left', async () => {
    const hoursAgo = new Date(Date.now() - 5 * 3_600_000).toISOString();
    const shown = await panel([
      reference({ id: 'a' }),
      reference({ id: 'b' }),
      reference({ id: 'c', rereadDbm: '-5.02' }),
      reference({ id: 'd', rereadDbm: '-5.3' }),
      reference({ id: 'e', setAt: hoursAgo }),
    ]);
    for (const words of ['to be read again', 'holds', 'moved too far', 'too old']) {
      expect(shown.text()).toContain(words);
    }
    expect(shown.get('[data-test=reread-all]').text()).toBe('Read all 2 again');
  });
});

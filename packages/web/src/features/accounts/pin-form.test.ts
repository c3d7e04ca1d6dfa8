// @vitest-environment happy-dom
import { ROUTES } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import { freshPages, holds, openPage, shows, TestServer } from '../../../test/page.ts';
import PinForm from './PinForm.vue';

freshPages();
describe('the own PIN', () => {
  it('is set with the password; what is wrong stands at its field', async () => {
    const server = new TestServer().refuse(
      ROUTES.setPin,
      422,
      'auth.weak_pin',
      'Everybody tries this first.',
    );
    const { page, type, press } = await openPage(PinForm, { props: { has: false } });
    await type('input[name=pin-password]', 'seven quiet lanterns');
    await type('input[name=pin]', '12');
    await press('Set it');
    await shows(page, '4 to 8 digits');
    expect(server.of(ROUTES.setPin)).toEqual([]);
    await type('input[name=pin]', '1234');
    await press('Set it');
    const under = (name: string) =>
      page.get(`input[name=${name}]`).element.closest('.el-form-item')!.textContent;
    await holds(() => expect(under('pin')).toContain('Everybody tries this first.'));
    server.on(ROUTES.setPin, { done: true });
    await type('input[name=pin]', '4071');
    await press('Set it');
    await holds(() => expect(page.emitted('changed')).toHaveLength(1));
    expect(server.of(ROUTES.setPin).at(-1)!.body).toEqual({ password: 'seven quiet lanterns', pin: '4071' });
    expect((page.get('input[name=pin]').element as HTMLInputElement).value).toBe('');
  });
  it('is taken away by a tap', async () => {
    const server = new TestServer().on(ROUTES.dropOwnPin, { done: true });
    const { page, press } = await openPage(PinForm, { props: { has: true } });
    await press('Take it away');
    await holds(() => expect(page.emitted('changed')).toHaveLength(1));
    expect(server.of(ROUTES.dropOwnPin)).toHaveLength(1);
  });
});

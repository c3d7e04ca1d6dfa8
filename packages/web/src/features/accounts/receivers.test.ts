// @vitest-environment happy-dom
import { type Delivery, type Receiver, ROUTES } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import {
  freshPages,
  holds,
  id,
  openPage,
  pressAnywhere,
  settled,
  shows,
  TestServer,
} from '../../../test/page.ts';
import ActMenu from '../../shared/ActMenu.vue';
import { deliveryState, receiverActs, receiverState } from './receivers.model.ts';
import ReceiversPanel from './ReceiversPanel.vue';

freshPages();
const receiver = (more: Partial<Receiver> = {}): Receiver => ({
  id: id(4),
  kind: 'webhook',
  label: 'Office',
  address: 'https://office.example/hook',
  events: ['piece.signed'],
  paused: false,
  waiting: 0,
  lost: 0,
  ...more,
});
const delivery = (more: Partial<Delivery> = {}): Delivery => ({
  id: id(5),
  event: 'piece.signed',
  at: '2026-06-03T12:00:00.000Z',
  tries: 2,
  nextTry: '2026-06-03T12:05:00.000Z',
  deliveredAt: null,
  givenUpAt: null,
  lastAnswer: '503',
  ...more,
});

describe('how a telling went', () => {
  it('is said in words', () => {
    expect(deliveryState(delivery({ deliveredAt: '2026-06-03T12:00:01.000Z', lastAnswer: '204' }))).toBe(
      'taken (204)',
    );
    expect(deliveryState(delivery({ tries: 0, lastAnswer: '' }))).toBe('not sent yet');
    expect(deliveryState(delivery())).toMatch(/^503, tried 2 times, again /);
    expect(deliveryState(delivery({ tries: 1, lastAnswer: '' }))).toMatch(/^under way, tried once/);
    expect(deliveryState(delivery({ tries: 9, givenUpAt: '2026-06-05T12:00:00.000Z' }))).toBe(
      '503, tried 9 times, given up',
    );
  });
  it('and how a program stands', () => {
    expect(receiverState(receiver())).toBe('told of everything');
    expect(receiverState(receiver({ waiting: 2, lost: 1 }))).toBe('2 not told yet');
    expect(receiverState(receiver({ lost: 1 }))).toBe('1 given up');
    expect(receiverState(receiver({ paused: true, waiting: 2 }))).toBe('paused');
    expect(receiverActs(receiver({ paused: true })).map((a) => a.value)).toContain('go_on');
  });
});

describe('programs that are told what happens', () => {
  it('a webhook is made, its key shown once; an address that is refused says so at the field', async () => {
    const server = new TestServer()
      .on(ROUTES.receivers, [])
      .refuse(ROUTES.addReceiver, 422, 'receiver.address_refused', 'Begins with https.');
    const { page, type, press } = await openPage(ReceiversPanel, { as: 'lead' });
    await type('input[name=webhook-label]', 'Office');
    await type('input[name=webhook-address]', 'http://office.example/hook');
    await press('Tell it by webhooks');
    const field = () => page.get('input[name=webhook-address]').element.closest('.el-form-item')!.textContent;
    await holds(() => expect(field()).toContain('Begins with https.'));
    server.on(ROUTES.addReceiver, { secret: 'whsec_abc' });
    await type('input[name=webhook-address]', 'https://office.example/hook');
    await press('Tell it by webhooks');
    await shows(page, 'whsec_abc');
    expect(server.of(ROUTES.addReceiver).at(-1)!.body).toMatchObject({
      kind: 'webhook',
      events: expect.arrayContaining(['piece.signed']),
    });
    await press('I have it');
    await settled();
    expect(page.text()).not.toContain('whsec_abc');
  });
  it('a record store is made with its user and the address of the school', async () => {
    const server = new TestServer().on(ROUTES.receivers, []).on(ROUTES.addReceiver, { secret: null });
    const { page, type, press } = await openPage(ReceiversPanel, { as: 'lead' });
    page.getComponent({ name: 'ElSegmented' }).vm.$emit('update:modelValue', 'xapi');
    await settled();
    for (const [name, text] of [
      ['label', 'Records'],
      ['address', 'https://lrs.example/xapi'],
      ['user', 'u'],
      ['password', 'p'],
      ['home', 'https://school.example'],
    ])
      await type(`input[name=store-${name}]`, text!);
    await press('Send statements to it');
    await holds(() =>
      expect(server.of(ROUTES.addReceiver)[0]!.body).toMatchObject({
        kind: 'xapi',
        user: 'u',
        home: 'https://school.example',
      }),
    );
  });
  it('shows what one was told, sends what failed again, and takes a pause back', async () => {
    const server = new TestServer()
      .on(ROUTES.receivers, [receiver({ waiting: 1 })])
      .on(ROUTES.deliveries, [delivery()])
      .on(ROUTES.sendAgain, { done: true })
      .on(ROUTES.pauseReceiver, { done: true });
    const { page, press } = await openPage(ReceiversPanel, { as: 'lead' });
    await shows(page, '1 not told yet');
    page.getComponent(ActMenu).vm.$emit('choose', 'told');
    await holds(() => expect(page.find('[data-test=deliveries]').text()).toContain('503, tried 2 times'));
    await press('Send now');
    await holds(() => expect(server.of(ROUTES.sendAgain)).toHaveLength(1));
    page.getComponent(ActMenu).vm.$emit('choose', 'pause');
    await settled();
    await pressAnywhere('Undo');
    await holds(() =>
      expect(server.of(ROUTES.pauseReceiver).map((a) => a.body)).toEqual([
        { paused: true },
        { paused: false },
      ]),
    );
  });
});

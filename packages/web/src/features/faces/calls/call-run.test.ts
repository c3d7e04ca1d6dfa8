// @vitest-environment happy-dom
import { describe, expect, it } from 'vitest';
import { freshPages, id, openPage, settled, TestServer } from '../../../../test/page.ts';
import { ROUTES } from '../../../api/client.ts';
import CallRunPage from './CallRunPage.vue';

freshPages();

const SERIES = {
  id: id(7),
  label: 'Evening round',
  className: 'Crew',
  faces: 4,
  secondsEach: null,
  run: null,
};

async function begun() {
  const server = new TestServer()
    .on(ROUTES.ownSeries, [SERIES])
    .on(ROUTES.startRun, { id: id(8), answered: [] })
    .on(ROUTES.answerCall, { done: true });
  const opened = await openPage(CallRunPage, { props: { seriesId: SERIES.id } });
  await opened.press('Begin');
  const pass = () => opened.page.findAll('button.call')[0]!;
  return { server, ...opened, pass };
}

describe('a run of blind calls', () => {
  it('takes a call only when the picture is there, and says which face it was', async () => {
    const { server, page, pass } = await begun();
    expect(page.text()).toContain('Face 1 of 4');
    expect(pass().attributes('disabled')).toBeDefined();
    await page.get('.frame img').trigger('load');
    await pass().trigger('click');
    await settled();
    expect(server.of(ROUTES.answerCall)[0]!.body).toMatchObject({ position: 0, said: 'pass', marks: [] });
    expect(page.text()).toContain('Face 2 of 4');
  });

  it('a picture that does not come is said, takes no call, and is asked for again', async () => {
    const { server, page, press, pass } = await begun();
    await page.get('.frame img').trigger('error');
    expect(page.get('[role=alert]').text()).toContain('does not come');
    expect(page.find('.frame img').exists()).toBe(false);
    expect(page.get('.frame [role=img]').attributes('aria-label')).toBe('Face 1: not within reach');
    await pass().trigger('click');
    expect(server.of(ROUTES.answerCall)).toHaveLength(0);
    await press('Ask for the picture again');
    expect(page.find('[role=alert]').exists()).toBe(false);
    await page.get('.frame img').trigger('load');
    await pass().trigger('click');
    await settled();
    expect(server.of(ROUTES.answerCall)).toHaveLength(1);
  });

  it('keys call as the buttons do, but not before the picture is there', async () => {
    const { server, page } = await begun();
    const key = (name: string) => window.dispatchEvent(new KeyboardEvent('keydown', { key: name }));
    key('g');
    await settled();
    expect(server.of(ROUTES.answerCall)).toHaveLength(0);
    await page.get('.frame img').trigger('load');
    key('b');
    await settled();
    expect(server.of(ROUTES.answerCall)[0]!.body).toMatchObject({ said: 'fail' });
  });
});

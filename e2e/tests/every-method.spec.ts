import { applyPractice, isWorkedOut, lossTerms, type MethodSheet, partsOf, trunkMap } from '@clear-mark/core';
import { PRACTICE } from '@clear-mark/demo';
import { SHIPPED_METHODS } from '@clear-mark/methods';
import { criteriaOfSheet, goodValue, nameOf } from '../../packages/methods/src/piece-for-tests.ts';
import type { Page } from '@playwright/test';
import { Api } from '../api.ts';
import { enterDemo, expect, testAlone as test } from '../world.ts';

/** What is typed, tapped or chosen for a good piece, by row. */
function actsFor(sheet: MethodSheet): { row: string; kind: string; texts: string[] }[] {
  const typed = criteriaOfSheet(sheet).filter((c) => !isWorkedOut(c));
  return typed.map((c) => {
    if (c.kind === 'loss') {
      const texts = partsOf(c).map((p) => lossTerms(c.link, c.rules, p.wavelengthNm!).expectedDb.toFixed(2));
      return { row: nameOf(c), kind: c.kind, texts };
    }
    if (c.kind === 'readings') {
      const value = goodValue(c);
      return { row: nameOf(c), kind: c.kind, texts: partsOf(c).map(() => (value as { text: string }).text) };
    }
    if (c.kind === 'map')
      return { row: nameOf(c), kind: c.kind, texts: trunkMap(c.trunk, c.ports).map(String) };
    const value = goodValue(c);
    const text = value.kind === 'count' ? String(value.count) : 'text' in value ? (value.text ?? '') : '';
    return { row: nameOf(c), kind: c.kind, texts: [text] };
  });
}

/** To an address as the back button goes there: the application stays loaded. */
const goInside = (page: Page, url: string): Promise<void> =>
  page.evaluate((path) => {
    history.pushState({}, '', path);
    dispatchEvent(new PopStateEvent('popstate', { state: history.state as unknown }));
  }, new URL(url).pathname);

test('every shipped method is opened, scored to the end and passes', async ({ page, own: demo }) => {
  await page.addInitScript(() => localStorage.setItem('loss-unit', 'dB'));
  await enterDemo(page, demo, /As the lead/);
  const api = new Api(page, demo);
  const detail = await api.classDetail();
  await api.references(detail, 'one_cord', [850, 1300, 1310, 1550]);
  await api.references(detail, 'single_cord', [1310, 1550]);
  await api.references(detail, 'two_cord', [850, 1300, 1310, 1550]);
  await api.references(detail, 'three_cord', [850, 1300, 1310, 1550]);
  for (const [i, shipped] of SHIPPED_METHODS.entries()) {
    const sheet = applyPractice(shipped, PRACTICE);
    await goInside(page, await api.start(detail, sheet.id.replace('clear-mark/', ''), i));
    await expect(page.getByRole('link', { name: sheet.title, exact: true })).toBeVisible();
    await page.evaluate(async (acts) => {
      const settled = (): Promise<void> => new Promise((done) => setTimeout(done, 0));
      const type = async (input: HTMLInputElement, text: string): Promise<void> => {
        input.value = text;
        input.dispatchEvent(new Event('input', { bubbles: true }));
        await settled();
        input.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
        await settled();
      };
      for (const { row, kind, texts } of acts) {
        const element = document.querySelector<HTMLElement>(`[data-criterion="${row}"]`)!;
        if (kind === 'call') element.querySelector<HTMLElement>('.call .act')!.click();
        else if (kind === 'map') {
          for (const far of texts) {
            element.querySelector<HTMLElement>(`[aria-label="Light at far port ${far}"]`)!.click();
            await settled();
          }
        } else if (kind === 'check') element.querySelector<HTMLElement>('.main')!.click();
        else if (kind === 'grade') element.querySelector<HTMLElement>('.level')!.click();
        else {
          const inputs = element.querySelectorAll<HTMLInputElement>('input[data-number]');
          for (const [n, text] of texts.entries()) await type(inputs[n]!, text);
        }
        await settled();
      }
    }, actsFor(sheet));
    await expect(page.locator('[data-test=verdict]'), sheet.id).toHaveText('Pass');
    await expect(page.getByRole('button', { name: 'Sign: pass' }), sheet.id).toBeVisible();
  }
});

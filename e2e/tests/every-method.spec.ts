import { randomUUID } from 'node:crypto';
import { lossTerms, type MethodSheet } from '@clear-mark/core';
import { SHIPPED_METHODS } from '@clear-mark/methods';
import { criteriaOfSheet, goodValue, nameOf } from '../../packages/methods/src/piece-for-tests.ts';
import type { ClassDetail } from '@clear-mark/contract';
import { enterDemo, expect, testAlone as test } from '../world.ts';

/** What is typed, tapped or chosen for a good piece, by row. */
function actsFor(sheet: MethodSheet): { row: string; kind: string; texts: string[] }[] {
  return criteriaOfSheet(sheet).map((c) => {
    if (c.kind === 'loss') {
      const texts = c.wavelengthsNm.map((nm) => lossTerms(c.link, c.rules, nm).expectedDb.toFixed(2));
      return { row: nameOf(c), kind: c.kind, texts };
    }
    const value = goodValue(c);
    const text = value.kind === 'count' ? String(value.count) : 'text' in value ? (value.text ?? '') : '';
    return { row: nameOf(c), kind: c.kind, texts: [text] };
  });
}

test('every shipped method is opened, scored to the end and passes', async ({ page, own: demo }) => {
  test.setTimeout(180_000);
  await page.addInitScript(() => localStorage.setItem('loss-unit', 'dB'));
  await enterDemo(page, demo, /As the lead/);
  const api = async <T>(method: string, path: string, data?: unknown): Promise<T> => {
    const reply = await page.request.fetch(`${demo.url}/api${path}`, { method, ...(data ? { data } : {}) });
    expect(reply.status(), `${method} ${path}`).toBe(200);
    return (await reply.json()) as T;
  };
  const [{ id }] = await api<[{ id: string }]>('GET', '/classes');
  const detail = await api<ClassDetail>('GET', `/classes/${id}`);
  const meter = detail.things.find((t) => t.kind === 'instrument')!.id;
  const now = new Date().toISOString();
  for (const [method, wavelengthNm] of [
    ['one_cord', 1310],
    ['one_cord', 1550],
    ['two_cord', 850],
    ['two_cord', 1300],
    ['three_cord', 850],
    ['three_cord', 1300],
  ]) {
    const body = { id: randomUUID(), instrumentId: meter, method, wavelengthNm, valueDbm: '-20.00' };
    await api('POST', `/classes/${id}/references`, { ...body, setAt: now, showsNegative: false });
  }
  for (const [i, sheet] of SHIPPED_METHODS.entries()) {
    const { versionId } = detail.methods.find((m) => m.methodId === sheet.id)!;
    await api('PUT', `/classes/${id}/methods`, { versionId, inUse: true });
    const attemptId = randomUUID();
    await api('POST', `/classes/${id}/attempts`, {
      ...{ id: attemptId, traineeId: detail.trainees[i % detail.trainees.length]!.id },
      ...{ methodVersionId: versionId, pieceId: randomUUID(), pieceLabel: `M-${i + 1}` },
      ...{ thingIds: [meter], startedAt: now, sentAt: now, deviceId: randomUUID() },
    });
    await page.goto(`${demo.url}/class/${id}/sheet/${attemptId}`);
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
        if (kind === 'check') element.querySelector<HTMLElement>('.main')!.click();
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

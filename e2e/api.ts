import { randomUUID } from 'node:crypto';
import type { Page } from '@playwright/test';
import type { ClassDetail } from '@clear-mark/contract';
import { type DemoServer, expect } from './world.ts';

/** Calls of the server by the person who is signed in on a page: to set a scene, never to check one. */
export class Api {
  constructor(
    private readonly page: Page,
    private readonly demo: DemoServer,
  ) {}

  async call<T>(method: string, path: string, data?: unknown): Promise<T> {
    const reply = await this.page.request.fetch(`${this.demo.url}/api${path}`, {
      method,
      ...(data === undefined ? {} : { data }),
    });
    expect(reply.status(), `${method} ${path}`).toBe(200);
    return (await reply.json()) as T;
  }

  async classDetail(): Promise<ClassDetail> {
    const [{ id }] = await this.call<[{ id: string }]>('GET', '/classes');
    return this.call<ClassDetail>('GET', `/classes/${id}`);
  }

  /** Sets references of -20 dBm at the wavelengths, read again to the same level, by the class's first meter. */
  async references(detail: ClassDetail, method: string, wavelengthsNm: readonly number[]): Promise<void> {
    for (const wavelengthNm of wavelengthsNm) {
      const id = randomUUID();
      await this.call('POST', `/classes/${detail.id}/references`, {
        id,
        instrumentId: meterOf(detail),
        method,
        wavelengthNm,
        valueDbm: '-20.00',
        setAt: new Date().toISOString(),
        showsNegative: false,
      });
      const reread = { change: 'reread', valueDbm: '-20.00' };
      await this.call('PUT', `/classes/${detail.id}/references/${id}`, reread);
    }
  }

  /** Puts a method in use and starts a piece by it; gives the address of its sheet. */
  async start(
    detail: ClassDetail,
    method: string,
    trainee = 0,
    on: { readonly things?: readonly string[]; readonly linkId?: string } = {},
  ): Promise<string> {
    const { versionId } = detail.methods.find((m) => m.methodId === `clear-mark/${method}`)!;
    await this.call('PUT', `/classes/${detail.id}/methods`, { versionId, inUse: true });
    const attemptId = randomUUID();
    const now = new Date().toISOString();
    await this.call('POST', `/classes/${detail.id}/attempts`, {
      id: attemptId,
      traineeId: detail.trainees[trainee % detail.trainees.length]!.id,
      methodVersionId: versionId,
      pieceId: randomUUID(),
      pieceLabel: `E-${attemptId.slice(0, 4)}`,
      thingIds: [meterOf(detail), ...(on.things ?? [])],
      linkId: on.linkId ?? null,
      startedAt: now,
      sentAt: now,
      deviceId: randomUUID(),
    });
    return `${this.demo.url}/class/${detail.id}/sheet/${attemptId}`;
  }
}

const meterOf = (detail: ClassDetail): string => detail.things.find((t) => t.kind === 'instrument')!.id;

/** Pastes text into a field as a spreadsheet would put it on the clipboard. */
export async function paste(page: Page, selector: string, text: string): Promise<void> {
  await page.locator(selector).focus();
  await page.evaluate(
    ([where, what]) => {
      const clipboardData = new DataTransfer();
      clipboardData.setData('text/plain', what!);
      document
        .querySelector(where!)!
        .dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
    },
    [selector, text],
  );
}

import {
  applyLink,
  applyPractice,
  type AttemptLink,
  type MethodSheet,
  type PracticeChoices,
} from '@clear-mark/core';
import { shallowRef } from 'vue';
import { request, ROUTES } from '../api/client.ts';
import { deviceStore } from '../storage/device-store.ts';

interface Versioned {
  readonly methodVersionId: string;
  readonly schools: PracticeChoices;
  readonly link: AttemptLink | null;
}

/** The sheets of method versions on this device. One in force never changes, so each is fetched once. */
export function sheetShelf() {
  const sheets = shallowRef<ReadonlyMap<string, MethodSheet>>(new Map());

  /** Those that are being fetched: whoever needs one meanwhile waits for the same reply. */
  const onTheWay = new Map<string, Promise<void>>();

  async function fetchSheet(versionId: string): Promise<void> {
    const kept = await deviceStore.sheet(versionId).catch(() => null);
    const sheet = kept ?? (await request(ROUTES.methodVersion, { params: { id: versionId } })).sheet;
    // On the device before it is on the screen.
    if (!kept) await deviceStore.keepSheet(versionId, sheet).catch(() => undefined);
    sheets.value = new Map(sheets.value).set(versionId, sheet);
  }
  async function need(versionId: string): Promise<void> {
    if (sheets.value.has(versionId)) return;
    let reply = onTheWay.get(versionId);
    if (!reply) {
      reply = fetchSheet(versionId).finally(() => onTheWay.delete(versionId));
      onTheWay.set(versionId, reply);
    }
    await reply;
  }
  /** All of them, or the first failure. */
  async function needAll(versionIds: readonly string[]): Promise<void> {
    await Promise.all([...new Set(versionIds)].map(need));
  }
  /** The sheet that an attempt is scored by, when this device has it. */
  function sheetFor(attempt: Versioned): MethodSheet | null {
    const sheet = sheets.value.get(attempt.methodVersionId);
    // Copies of before links existed have none.
    return sheet ? applyLink(applyPractice(sheet, attempt.schools), attempt.link ?? null) : null;
  }
  return { needAll, sheetFor };
}

import { daysAfter } from '@clear-mark/core';
import type { DemoData } from './demo-data.ts';

/** A check of a test cord as it is kept; days like `2026-03-09`, losses in dB. */
export interface DemoCordCheck {
  readonly thingId: string;
  readonly checkedOn: string;
  readonly dueOn: string;
  readonly lossDb: string;
  readonly limitDb: string;
}

const EVERY_DAYS = 7;
/** What a cord loses when it is new, and what each week of mating adds; invented. */
const NEW_DB = 0.14;
const WEEK_DB = 0.02;

/** The test cords of a class were checked every week of its course, a little worse each time and always within 0.5 dB. */
export function cordChecksOf(data: DemoData, today: string): DemoCordCheck[] {
  const cords = data.things.filter((t) => t.kind === 'cord');
  const checks: DemoCordCheck[] = [];
  for (let day = data.startsOn, week = 0; day <= today; day = daysAfter(day, EVERY_DAYS), week += 1) {
    for (const [i, { id }] of cords.entries()) {
      const lossDb = (NEW_DB + week * WEEK_DB + i * 0.03).toFixed(2);
      checks.push({
        thingId: id,
        checkedOn: day,
        dueOn: daysAfter(day, EVERY_DAYS),
        lossDb,
        limitDb: '0.5',
      });
    }
  }
  return checks;
}

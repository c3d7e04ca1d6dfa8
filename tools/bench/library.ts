import { checkSheet } from '@clear-mark/core';
import { MethodSheetShape } from '@clear-mark/contract/sheet';
import { SHIPPED_METHODS } from '@clear-mark/methods';
import { type Measured, medianOf } from './measured.ts';

const ROUNDS = 90;

/** The shipped library read from its text and checked, by schema and by core, against JSON.parse of the same text. */
export function benchLibrary(): Measured {
  const text = JSON.stringify(SHIPPED_METHODS);
  const time = (act: () => unknown): number => {
    const from = process.hrtime.bigint();
    act();
    return Number(process.hrtime.bigint() - from) / 1e6;
  };
  const pairs = Array.from({ length: ROUNDS }, () => ({
    parse: time(() => JSON.parse(text)),
    load: time(() =>
      (JSON.parse(text) as unknown[]).forEach((sheet) => checkSheet(MethodSheetShape.parse(sheet))),
    ),
  })).slice(ROUNDS / 3);
  return {
    name: 'library loaded and checked / JSON.parse of its text',
    ratio: medianOf(pairs.map((p) => p.load / p.parse)),
    most: 5,
    unit: 'times',
    detail: `${SHIPPED_METHODS.length} methods, ${text.length} bytes; median load ${medianOf(pairs.map((p) => p.load)).toFixed(1)} ms, parse ${medianOf(pairs.map((p) => p.parse)).toFixed(1)} ms`,
  };
}

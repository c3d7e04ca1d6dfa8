import { checkSheet, type MethodSheet } from '@clear-mark/core';
import { LIBRARY } from './library/index.ts';
import { LC_WEDGE_LOCATOR } from './library/wedge/sheet.ts';

/** Every shipped method, checked when it is loaded. */
export const SHIPPED_METHODS: readonly MethodSheet[] = LIBRARY.map(checkSheet);

export { DRAWINGS, type Drawing, STEP_DRAWINGS } from './drawings/index.ts';
export { type ExampleLink, EXAMPLE_LINKS } from './example-links.ts';
export { type DescribedLink, linkOfAttempt } from './link-of-attempt.ts';
export { lossRulesFor, shippedBudget } from './loss-rules.ts';
export { PRACTICE_OPTIONS } from './practice-of-the-trade.ts';
export { DECIDED_ELSEWHERE } from './practice-options.ts';
export { LC_WEDGE_LOCATOR };
export * from './drills.ts';
export * from './stock-items.ts';

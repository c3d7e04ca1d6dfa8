import type { Rule } from 'eslint';

/** The names of the functions that write, by the texts of the stores that they stand in. */
export function writingNames(texts: readonly string[]): Set<string>;
declare const rule: Rule.RuleModule;
export default rule;

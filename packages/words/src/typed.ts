import type { Typed } from '@clear-mark/core';

/** What is wrong with a typed number, in one sentence; null where nothing is. `what` is such as `a size`, `unit` such as `µm`. */
export function typedProblem(typed: Typed, what: string, unit = ''): string | null {
  const of = unit === '' ? '' : ` ${unit}`;
  switch (typed.kind) {
    case 'number':
      return null;
    case 'empty':
      return `Give ${what}: an empty field is none.`;
    case 'not_a_number':
      return `“${typed.text}” is not ${what}. Digits with one point or comma.`;
    case 'not_whole':
      return `“${typed.text}” is not a whole number.`;
    case 'out_of_range': {
      const { least, most, text } = typed;
      const range =
        least !== null && most !== null
          ? `from ${least} to ${most}${of}`
          : least !== null
            ? `${least}${of} or more`
            : `${most}${of} or less`;
      return `“${text}” is not ${what}: ${range}.`;
    }
    default:
      return typed satisfies never;
  }
}

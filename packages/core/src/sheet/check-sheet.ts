import { DomainError } from '../domain-error.ts';
import { sheetProblems } from './sheet-problems.ts';
import type { MethodSheet } from './types.ts';

/**
 * Refuses a sheet that scoring could not be trusted with, by the first of its `sheetProblems`. Returns the sheet. Errors:
 * `sheet.*` with the criterion's id.
 */
export function checkSheet(sheet: MethodSheet): MethodSheet {
  const [first] = sheetProblems(sheet);
  if (first) throw new DomainError(first.code, first.params);
  return sheet;
}

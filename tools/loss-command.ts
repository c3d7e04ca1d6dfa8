import { readFileSync } from 'node:fs';
import { type LossCase, LossCases, judgeLossCase } from './loss-cases.ts';

/**
 * `./clear-mark loss CASES.json`: limit, uncertainty, verdict and reasons of each case as JSON on the standard output.
 * A bad file is refused whole, with the field and the reason; a case that has no limit says so in its own result.
 */
export function runLoss(args: readonly string[]): number {
  const [file] = args;
  if (file === undefined || args.length > 1) {
    console.error('Give one file: ./clear-mark loss CASES.json');
    return 2;
  }
  let text: string;
  try {
    text = readFileSync(file, 'utf8');
  } catch {
    console.error(`${file}: cannot be read`);
    return 2;
  }
  const cases = casesFrom(text);
  if (typeof cases === 'string') {
    console.error(`${file}: ${cases}`);
    return 2;
  }
  console.log(JSON.stringify(cases.map(judgeLossCase), null, 2));
  return 0;
}

/** The cases of a file, or what is wrong with it and where. */
export function casesFrom(text: string): readonly LossCase[] | string {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (error) {
    return `not JSON: ${(error as Error).message}`;
  }
  const parsed = LossCases.safeParse(json);
  if (parsed.success) return parsed.data;
  const issue = parsed.error.issues[0]!;
  return `${issue.path.join('.') || 'file'}: ${issue.message}`;
}

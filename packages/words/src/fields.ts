/** What is wrong with one field, as a schema says it; the names are those of Zod's issues. */
export interface FieldIssue {
  readonly code?: string | undefined;
  readonly origin?: string | undefined;
  readonly minimum?: number | bigint | undefined;
  readonly maximum?: number | bigint | undefined;
  readonly format?: string | undefined;
  readonly input?: unknown;
  readonly message: string;
}

const sentence = (text: string): string => `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;

/** What is wrong with a field, in one sentence to be read beside it. `value` is what stands in it. */
export function fieldProblem(issue: FieldIssue, value: unknown): string {
  if (value === null || value === undefined || (typeof value === 'string' && value.trim() === '')) {
    return 'Fill this in.';
  }
  const ofText = issue.origin === 'string';
  switch (issue.code) {
    case 'too_small':
      return ofText ? `At least ${issue.minimum} characters.` : `${issue.minimum} or more.`;
    case 'too_big':
      return ofText ? `At most ${issue.maximum} characters.` : `${issue.maximum} or less.`;
    case 'invalid_type':
      return issue.format === 'safeint' ? 'A whole number.' : 'A number is needed.';
    case 'invalid_format':
      // A pattern of our own says in words what it asks for.
      return issue.format === 'regex' ? sentence(issue.message) : 'Choose a day.';
    default:
      return sentence(issue.message);
  }
}

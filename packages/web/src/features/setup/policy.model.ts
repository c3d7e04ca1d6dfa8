import { checkPolicy, type CompetenceRule, DomainError, type Policy, typedOrNull } from '@clear-mark/core';
import { errorWords } from '@clear-mark/words';
import { isErrorCode } from '@clear-mark/contract';

export type NumberField = {
  [K in keyof Policy]: Policy[K] extends number ? K : never;
}[keyof Policy];

export interface PolicyField {
  readonly key: NumberField;
  readonly label: string;
  readonly why: string;
  readonly part: CompetenceRule | 'asks' | 'charts';
  readonly decimal?: boolean;
}

/** The policy as a form that explains itself: what each number is for. */
export const POLICY_FIELDS: readonly PolicyField[] = [
  {
    key: 'passesInARow',
    part: 'in_a_row',
    label: 'Passes in a row that show competence',
    why: 'They also clear a stop breach and begin the chart anew.',
  },
  {
    key: 'sharePasses',
    part: 'share',
    label: 'Passes wanted',
    why: 'Among the last outcomes; one bad piece does not undo the others.',
  },
  { key: 'shareOf', part: 'share', label: 'Last outcomes looked at', why: 'From 1 to 12.' },
  {
    key: 'failsInARow',
    part: 'asks',
    label: 'Fails in a row that ask for retraining',
    why: 'Few catch trouble early, and ask good ones too.',
  },
  {
    key: 'retrainAfter',
    part: 'asks',
    label: 'Not before this many outcomes',
    why: 'The first pieces of a beginner fail; that is no reason yet.',
  },
  {
    key: 'marginalInARow',
    part: 'asks',
    label: 'Marginal passes in a row that put on watch',
    why: 'Each passes, all of them just so.',
  },
  {
    key: 'currencyMonths',
    part: 'asks',
    label: 'Months without a pass until it lapses',
    why: 'A sign-off lapses after the same time.',
  },
  {
    key: 'window',
    part: 'asks',
    label: 'Outcomes that the recent view looks at',
    why: 'For the step behind a need and for what it may take.',
  },
  {
    key: 'pGood',
    part: 'charts',
    label: 'Failure rate of a good trainee',
    decimal: true,
    why: 'Such work is to be left alone. 0.1 is one in ten.',
  },
  {
    key: 'pBad',
    part: 'charts',
    label: 'Failure rate of one who is not ready',
    decimal: true,
    why: 'Such work is to be found. It must be over the one before.',
  },
  {
    key: 'falseSignalAfter',
    part: 'charts',
    label: 'Pieces to a false signal, on the average',
    why: 'The limits of both charts are worked out from it, exactly.',
  },
];

export const RULE_WORDS: Readonly<Record<CompetenceRule, { readonly title: string; readonly why: string }>> =
  {
    in_a_row: {
      title: 'Passes in a row',
      why: 'Easy to see and to explain; one failure begins the count anew.',
    },
    share: {
      title: 'A share of the last',
      why: 'Forgives a single failure; needs a full window of outcomes.',
    },
    chart: {
      title: 'The chart of learning',
      why: 'Weighs every outcome since the first (LC-CUSUM); slower, and sure of what it says.',
    },
  };

type Typed = Omit<Policy, NumberField> & Record<NumberField, string | number>;

/** What the form holds as a policy; what is no number becomes NaN, which no policy accepts. */
export function typedPolicy(form: Typed): Policy {
  const numbers = POLICY_FIELDS.map(({ key }) => {
    return [key, typedOrNull(String(form[key]), { least: 0 }) ?? NaN] as const;
  });
  return { ...form, ...Object.fromEntries(numbers) } as Policy;
}

/** What is wrong with a policy, in words, and the field that it stands at; null where nothing is. */
export function policyProblem(policy: Policy): { field: string | null; words: string } | null {
  try {
    checkPolicy(policy);
    return null;
  } catch (error) {
    if (!(error instanceof DomainError) || !isErrorCode(error.code)) throw error;
    const { field } = error.params;
    return { field: typeof field === 'string' ? field : null, words: errorWords(error.code, error.params) };
  }
}

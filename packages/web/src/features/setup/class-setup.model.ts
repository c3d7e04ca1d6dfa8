import { PLACE_VIEWS } from '../../shell/places.ts';
import type { ClassDetail } from '@clear-mark/contract';

export const SETUP_VIEWS = PLACE_VIEWS.setup;
export type SetupView = (typeof SETUP_VIEWS)[number]['id'];

export interface SetupStep {
  readonly view: SetupView;
  readonly title: string;
  readonly done: boolean;
}

/** What a class needs before its first piece can be scored, in the order in which it is set up. */
export const setupSteps = (detail: ClassDetail): SetupStep[] => [
  { view: 'people', title: 'Trainees', done: detail.trainees.length > 0 },
  { view: 'equipment', title: 'Benches and tools', done: detail.things.some((t) => t.kind === 'bench') },
  { view: 'methods', title: 'Methods', done: detail.methods.some((m) => m.inUse) },
];

/** The names of a roster, one a line: numbers and marks of a list before them are taken off, each name counts once. */
export function namesIn(
  text: string,
  trainees: readonly { readonly name: string }[],
): { fresh: string[]; known: string[] } {
  const there = new Set(trainees.map((t) => t.name.toLowerCase()));
  const names = text
    .split(/[\n\t;]/)
    .map((line) =>
      line
        .replace(/^\s*(?:\d+[.)]?|[-*•])\s+/, '')
        .replace(/\s+/g, ' ')
        .trim(),
    )
    .filter((name) => name !== '');
  const fresh = new Map<string, string>();
  const known: string[] = [];
  for (const name of names) {
    if (there.has(name.toLowerCase())) known.push(name);
    else if (!fresh.has(name.toLowerCase())) fresh.set(name.toLowerCase(), name);
  }
  return { fresh: [...fresh.values()], known };
}

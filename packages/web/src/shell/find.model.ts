import type { Verdict } from '@clear-mark/core';
import type { RouteLocationRaw } from 'vue-router';
import { PLACES } from './places.ts';

/** What the find panel can lead to. `do` is an act of the page itself, `to` a place of the application. */
export interface Finding {
  readonly key: string;
  readonly label: string;
  readonly detail: string;
  readonly verdict: Verdict | null;
  readonly to: RouteLocationRaw | null;
  readonly act: FindAct | null;
}
export type FindAct = 'day' | 'night' | 'contrast' | 'sign_out';

/** How many are shown at once: what is not among them is found by typing more. */
export const SHOWN = 9;

const fold = (text: string): string => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();

/** 0 where the label begins with what was typed, 1 where a word of it does, 2 where it stands anywhere; null where it does not. */
function rank({ label, detail }: Finding, words: readonly string[]): number | null {
  const text = fold(`${label} ${detail}`);
  if (!words.every((w) => text.includes(w))) return null;
  const name = fold(label);
  if (words.length > 0 && name.startsWith(words.join(' '))) return 0;
  const starts = text.split(/[^\p{L}\p{N}]+/u);
  return words.every((w) => starts.some((s) => s.startsWith(w))) ? 1 : 2;
}

/** What fits the typed words best; ones that fit alike stay in the order in which they came. */
export function findingsFor(text: string, all: readonly Finding[], most = SHOWN): Finding[] {
  const words = fold(text).split(/\s+/).filter(Boolean);
  return all
    .flatMap((finding) => {
      const r = rank(finding, words);
      return r === null ? [] : [{ finding, r }];
    })
    .sort((a, b) => a.r - b.r)
    .slice(0, most)
    .map(({ finding }) => finding);
}

const ACT_WORDS: readonly (readonly [FindAct, string])[] = [
  ['day', 'Light: day'],
  ['night', 'Light: night'],
  ['contrast', 'High contrast on or off'],
  ['sign_out', 'Sign out'],
];
export const ACTS: readonly Finding[] = ACT_WORDS.map(([act, label]) => ({
  key: act,
  label,
  detail: 'act',
  verdict: null,
  to: null,
  act,
}));

/** Every place of a class and every view of it that this person may open. */
export const placesOf = (classId: string, isLead: boolean): Finding[] =>
  PLACES.flatMap(({ name, label, views }) => {
    const params = { classId };
    const whole: Finding = {
      key: name,
      label,
      detail: 'place',
      verdict: null,
      to: { name, params },
      act: null,
    };
    const inside = views.filter((v) => v.id !== 'instructors' || isLead);
    return [
      whole,
      ...inside.map((v) => ({
        ...whole,
        key: `${name} ${v.id}`,
        label: v.label,
        detail: label,
        to: { name, params, query: { view: v.id } },
      })),
    ];
  });

/** The key of the find panel: not while text is typed, nor over an open dialog. */
export function opensFind({ key, ctrlKey, metaKey, altKey, target }: KeyboardEvent): boolean {
  if (key !== '/' || ctrlKey || metaKey || altKey) return false;
  const text = target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement;
  if (text && target.dataset['number'] === undefined) return false;
  // A dialog that was closed may still be there, unseen.
  const dialogs = [...document.querySelectorAll('[role=dialog][aria-modal=true]')];
  return dialogs.every((d) => d.getClientRects().length === 0);
}

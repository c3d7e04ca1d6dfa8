/** What a school named itself, a further skill or kind of equipment: its name with `_` for each space, so that it needs no table beside it. */
export type OwnName = `own:${string}`;

const PREFIX = 'own:';
const MOST_LETTERS = 40;
/** Letters of an own name as it is kept. */
export const MOST_OWN_NAME = PREFIX.length + MOST_LETTERS;
/** Letters and digits of any script, with single spaces, hyphens or apostrophes between them. */
const NAME = /^[\p{L}\p{M}\p{N}]+(?:[ \-’'][\p{L}\p{M}\p{N}]+)*$/u;
/** As a regular expression with the `u` flag. */
export const OWN_NAME_PATTERN = "own:[\\p{L}\\p{M}\\p{N}]+(?:[_\\-’'][\\p{L}\\p{M}\\p{N}]+)*";
const OWN = new RegExp(`^${OWN_NAME_PATTERN}$`, 'u');

/** Whether a text is a name that a school gave. Example: `own:Closure_work` is one, `own:a b` is none. */
export const isOwnName = (text: string): text is OwnName => OWN.test(text) && text.length <= MOST_OWN_NAME;

/**
 * A name as it is kept, up to 40 letters, digits, spaces and hyphens; null where it is none.
 * Example: `Closure work` is `own:Closure_work`.
 */
export function ownName(name: string): OwnName | null {
  const tidy = name.trim().replace(/\s+/g, ' ').normalize('NFC');
  return NAME.test(tidy) && tidy.length <= MOST_LETTERS ? `own:${tidy.replaceAll(' ', '_')}` : null;
}

/** The name as the school wrote it. */
export const ownNameWords = (name: OwnName): string => name.slice(PREFIX.length).replaceAll('_', ' ');

/** Each of these names once: those of the list in its order, then a school's own by name. */
export function inOrderOf<T extends string>(list: readonly T[], names: Iterable<T>): T[] {
  const rank = (name: T): number => (list.includes(name) ? list.indexOf(name) : list.length);
  return [...new Set(names)].sort((a, b) => rank(a) - rank(b) || (a < b ? -1 : 1));
}

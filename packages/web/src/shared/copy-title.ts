const AFTER = ', our copy';

/** The title of a copy, at most so many characters: what does not fit is left out by whole words of the original. */
export function copyTitle(title: string, most: number): string {
  let base = title;
  while (base.length + AFTER.length > most && base.includes(' '))
    base = base.slice(0, base.lastIndexOf(' ')).replace(/[,;:]$/, '');
  return base.slice(0, most - AFTER.length) + AFTER;
}

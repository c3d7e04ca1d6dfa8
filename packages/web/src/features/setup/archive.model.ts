import type { ArchiveOutlook } from '@clear-mark/contract';

export const METHOD_WORDS: Readonly<Record<ArchiveOutlook['methods'][number]['is'], string>> = {
  same: 'here already: the class goes on with it',
  new: 'new here: comes in force',
  records_only: 'kept for the records; not in use here',
};

export function personWords({ is, name, nameHere }: ArchiveOutlook['people'][number]): string {
  if (is === 'new') return 'a new account, closed until you open it';
  return nameHere === name ? 'here already' : `here already as ${nameHere}`;
}

/** What the class brings, as numbers with their words. */
export function amountsOf(outlook: ArchiveOutlook): { text: string; label: string }[] {
  const number = new Intl.NumberFormat();
  return (
    [
      [outlook.trainees, 'trainee', 'trainees'],
      [outlook.pieces, 'piece', 'pieces'],
      [outlook.records, 'signed record', 'signed records'],
      [outlook.entries, 'entry', 'entries'],
      [outlook.pictures, 'picture', 'pictures'],
    ] as const
  ).map(([n, one, more]) => ({ text: number.format(n), label: n === 1 ? one : more }));
}

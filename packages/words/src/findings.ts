import type { AmendmentNotice, Finding } from '@clear-mark/contract';

/** What was changed under a signed record. */
export const NOTICE_WORDS: Readonly<Record<AmendmentNotice['cause'], string>> = {
  face_graded: 'a picture of it was graded again',
  reference_reread: 'its loss reference was read again',
  reference_void: 'its loss reference was made void',
  entry_late: 'an entry came after signing and is kept beside it',
};

const WORDS: Readonly<Record<Finding['kind'], string>> = {
  gap: 'a record before this one is missing',
  link_broken: 'it does not follow from the record before it',
  record_changed: 'the record or one of its entries is not as it was signed',
  reason_changed: 'the reason is not the one that was signed',
  note_changed: 'a note is not the one that was entered',
  evidence_changed: 'a reference or a picture that it rests on is not as it was',
  derived_differs:
    'the numbers that are counted differ from the record; ./clear-mark rebuild-outcomes makes them again',
  tail_missing: 'records at the end of the chain are missing',
  head_behind: 'the head of the chain was set back',
  revision_missing: 'the attempt says that it is signed and has no record',
  anchor_lost: 'the record that was anchored outside is gone or another',
  head_forged: 'the signature of a kept head does not hold',
};

/** A finding in words: where, whose, what. */
export function findingWords(finding: Finding, className: string | null = null): string {
  const { classSeq, traineeName, pieceLabel, from } = finding;
  const where = [
    className ?? '',
    classSeq === null ? '' : `record ${classSeq}`,
    traineeName === null ? '' : `${traineeName}, ${pieceLabel ?? ''}`,
    from ?? '',
  ].filter((part) => part !== '');
  return `${where.join(', ')}: ${WORDS[finding.kind]}`;
}

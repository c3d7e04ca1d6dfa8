/** The first letters of a name's parts, as labels carry them. */
export const initials = (name: string): string =>
  name
    .split(/\s+/)
    .map((part) => part[0])
    .join('');

/** The label that a trainee's next piece is offered: initials and a running number. */
export const labelOfPiece = (name: string, number: number): string =>
  `${initials(name)}-${String(number).padStart(2, '0')}`;

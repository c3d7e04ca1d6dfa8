/** Ways in which a simulated instrument can be made to fail. */
export const FAILURES = [
  'none',
  'silent',
  'slow',
  'garbage',
  'wrong_unit',
  'wrong_wavelength',
  'not_a_number',
  'over_range',
  'disconnect',
  'half_a_line',
  'endless_line',
] as const;
export type Failure = (typeof FAILURES)[number];

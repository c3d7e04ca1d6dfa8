/** Whether two readings of the same piece agree, dB. */
export interface ReadingAgreement {
  readonly differenceDb: number;
  /** Most that two sound readings differ by: root of the sum of both squared expanded uncertainties. */
  readonly mostDb: number;
  readonly agree: boolean;
}

/** Binary dust forgiven in a computed difference; dB. */
const DUST_DB = 1e-6;

/**
 * The trainee's reading against the instructor's of the same piece: they agree when their difference is not above
 * sqrt(U1^2 + U2^2), an En number of at most 1 (ISO 13528); otherwise the technique of one of them is wrong.
 * Losses in dB, expanded uncertainties in dB, 0 or more. Example: 0.42 and 0.30 dB at U = 0.11 each agree.
 */
export function readingsAgree(
  traineeDb: number,
  instructorDb: number,
  traineeU: number,
  instructorU: number,
): ReadingAgreement {
  const differenceDb = traineeDb - instructorDb;
  const mostDb = Math.hypot(traineeU, instructorU);
  return { differenceDb, mostDb, agree: Math.abs(differenceDb) <= mostDb + DUST_DB };
}

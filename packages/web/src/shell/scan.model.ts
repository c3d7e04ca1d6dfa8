/** The longest pause between two keys of a scanner; a hand is slower. */
export const SCAN_PAUSE_MS = 35;
/** Fewer keys than this are a hand's. */
const SHORTEST = 4;

export interface ScanState {
  readonly text: string;
  readonly at: number;
}
export const NO_SCAN: ScanState = { text: '', at: -Infinity };

export type ScanStep =
  /** Held back: more may follow. */
  | { readonly act: 'hold'; readonly state: ScanState }
  /** A whole label was read. */
  | { readonly act: 'scanned'; readonly label: string; readonly state: ScanState }
  /** A hand's key, to be handled as always. */
  | { readonly act: 'pass'; readonly state: ScanState };

/**
 * What a key press is to a keyboard-wedge scanner, which types a label and Enter faster than any hand. Every printable
 * key is held back for the length of the pause; what is followed at once is the scanner's. `at` in ms.
 */
export function scanStep(state: ScanState, key: string, at: number): ScanStep {
  const follows = at - state.at <= SCAN_PAUSE_MS;
  if (key === 'Enter') {
    return follows && state.text.length >= SHORTEST
      ? { act: 'scanned', label: state.text, state: NO_SCAN }
      : { act: 'pass', state: NO_SCAN };
  }
  if (key.length !== 1) return { act: 'pass', state: NO_SCAN };
  return { act: 'hold', state: { text: follows ? state.text + key : key, at } };
}

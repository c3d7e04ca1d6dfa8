/**
 * Stands in the build for the colour arithmetic behind a button's `color`: buttons here take their colours from the tokens, and
 * seven kilobytes that nobody calls are not sent to a tablet.
 */
export class TinyColor {
  constructor() {
    throw new Error('A button takes its colour from the tokens in theme/tokens.css.');
  }
}

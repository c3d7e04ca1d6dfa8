import { afterEach, beforeEach } from 'vitest';
import { forgetReplies } from '../src/api/queries.ts';

// Files share one process: what one test was replied is not there for the next.
afterEach(forgetReplies);

/**
 * A browser says `[object HTMLElement]` of an element; the simulated one writes out all that is in it. Popper asks each element
 * by this whether it is a window, at every change of place: that took four fifths of the time of a page with many choices.
 */
beforeEach(() => {
  if (typeof Element === 'undefined') return;
  Element.prototype.toString = () => '[object HTMLElement]';
});

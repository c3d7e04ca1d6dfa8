import type { BlockFault } from '@clear-mark/core';

/** What is wrong with a block of a trace file, after its name. */
export const BLOCK_FAULT_WORDS: Readonly<Record<BlockFault, string>> = {
  count: 'counts more or fewer things than it can have',
  cut: 'ends before what it says is in it',
  index: 'has no group index above zero',
  length: 'is not as long as it says',
  missing: 'is missing',
  name: 'does not begin with its name',
  outside: 'would end behind the end of the file',
  points: 'says a number of points that is not there',
  pulse: 'has a pulse that is not longer than zero',
  scale: 'has a scale that is not above zero',
  spacing: 'has points that are not apart',
  text: 'has a text without an end',
  twice: 'is there twice',
};

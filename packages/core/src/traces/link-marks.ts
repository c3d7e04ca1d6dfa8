import { DomainError } from '../domain-error.ts';
import { BlockReader } from './record.ts';
import type { SorFile } from './sor-file.ts';
import { metresOf } from './trace.ts';

const MOST_MARKS = 1000;
/** Numbers of a mark that say nothing of where it lies: event, place on earth, correction, sheath. */
const BETWEEN_BYTES = 22;

/**
 * Where the file's own landmarks lie, metres from the port (LnkParams of SR-4731, from memory). Empty where there are none, or where they
 * are laid out otherwise: they are a help, and no trace is refused for them.
 */
export function linkMarks(file: SorFile): number[] {
  const block = file.blocks.find((b) => b.name === 'LnkParams');
  if (!block) return [];
  try {
    const reader = new BlockReader('LnkParams', block.content, file.revision);
    const count = reader.number('i16');
    if (count < 0 || count > MOST_MARKS) return [];
    const marks = Array.from({ length: count }, () => {
      reader.number('i16');
      reader.chars(2);
      const time = reader.number('i32');
      reader.raw(BETWEEN_BYTES);
      reader.chars(2);
      reader.number('i16');
      reader.text();
      return metresOf(time, file.fixed.groupIndex / 1e5);
    });
    return marks.every((m) => m >= 0) ? marks.sort((a, b) => a - b) : [];
  } catch (error) {
    if (error instanceof DomainError) return [];
    throw error;
  }
}

import type { Caution, FiberClass, MethodSheet, Step, StripGeometry, ThingKind } from '@clear-mark/core';
import { withPractice } from '../practice-options.ts';
import { house } from '../sources.ts';

interface Described {
  readonly name: string;
  readonly title: string;
  readonly summary: string;
  readonly pieceKind: MethodSheet['pieceKind'];
  readonly fiberClass?: FiberClass;
  readonly strip?: StripGeometry;
  readonly things: readonly ThingKind[];
  readonly cautions: readonly Caution[];
  readonly steps: readonly Step[];
  /** The look at a cleave that a class may add after it, where nobody does it by this kind. */
  readonly look?: Step;
}

/** A shipped method, with the pass mark that all of them start from and the practice options that bear on its criteria. */
export const method = (d: Described): MethodSheet =>
  withPractice(
    {
      id: `clear-mark/${d.name}`,
      // Counted up with every change of what is judged; signed pieces keep the version that they were judged by.
      version: 4,
      title: d.title,
      summary: d.summary,
      pieceKind: d.pieceKind,
      fiberClass: d.fiberClass ?? 'OS2',
      passMarkPercent: 80,
      passMarkSource: house('four fifths of the possible points'),
      ...(d.strip ? { strip: d.strip } : {}),
      thingsUsed: d.things,
      cautions: d.cautions,
      steps: d.steps,
    },
    d.look ?? null,
  );

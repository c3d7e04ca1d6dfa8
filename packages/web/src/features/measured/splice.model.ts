import type { JointRefusal, MeasuredSplice, SpliceClass, SpliceReading } from '@clear-mark/core';
import type { ReadValue } from './cleave.model.ts';

export const JOINT_WORDS: Readonly<Record<SpliceClass, string>> = {
  good: 'clean',
  offset: 'offset',
  angle: 'bent at the joint',
  neck: 'neck',
  bulge: 'bulge',
  bubble: 'bubble',
  line: 'line across the joint',
};
export const JOINT_REFUSAL_WORDS: Readonly<Record<JointRefusal, string>> = {
  no_fiber: 'No fiber is seen from the side. Show the joint level, with the light behind it.',
  one_end: 'One end is seen, and no joint. Show both fibers.',
  gap: 'The ends do not touch: that is the picture before the arc.',
  balled: 'The ends have melted apart. Cleave both anew; there is no joint to be measured.',
  defocused: 'The picture is too blurred. Focus on the edges of the fiber.',
  washed_out: 'The picture is too bright or too dim to tell the fiber from the light.',
  coated: 'The fiber wears its coating at the joint.',
};

/** The level of a scale of joints that a class stands for, by what the levels are called in the shipped methods. */
const LEVELS: Readonly<Record<SpliceClass, string>> = {
  good: 'clean',
  line: 'line',
  offset: 'offset',
  // A bend at the joint puts the cores out of line.
  angle: 'offset',
  bubble: 'bubble',
  neck: 'neck',
  bulge: 'neck',
};
/** Null where the scale has no such level: then somebody has to choose. */
export function levelOf(joint: MeasuredSplice, levels: readonly { readonly id: string }[]): string | null {
  const level = LEVELS[joint.class];
  return levels.some((l) => l.id === level) ? level : null;
}

const MOST_EXPANDED = 9.99;
/** A loss is not told more closely than this, dB, k = 2. */
const LEAST = 0.01;
/** The loss of a joint by its picture, dB at 1310 nm. */
export const lossOf = ({ lossDb }: MeasuredSplice): ReadValue => ({
  text: lossDb.value.toFixed(2),
  expanded: Math.min(MOST_EXPANDED, Math.max(LEAST, 2 * lossDb.sd)).toFixed(2),
});

/** What was measured beside the loss, in words with its expanded uncertainty. */
export function figuresOf(joint: MeasuredSplice): string[] {
  const um = (name: string, of: { readonly value: number; readonly sd: number }): string =>
    `${name} ${of.value.toFixed(1)} ± ${(2 * of.sd).toFixed(1)} µm`;
  const { offsetUm, coreOffsetUm, angleDeg, diameterChangeUm } = joint;
  // Beside another fault a dark spot is part of it.
  const bubbleUm = joint.class === 'bubble' ? joint.bubbleUm : null;
  return [
    um('claddings out of line', { ...offsetUm, value: Math.abs(offsetUm.value) }),
    ...(coreOffsetUm ? [um('cores', { ...coreOffsetUm, value: Math.abs(coreOffsetUm.value) })] : []),
    `bent ${Math.abs(angleDeg.value).toFixed(2)} ± ${(2 * angleDeg.sd).toFixed(2)}°`,
    um('diameter', diameterChangeUm),
    ...(bubbleUm ? [um('bubble', bubbleUm)] : []),
  ];
}

/** Two readings that follow each other agree: the picture is held still. */
export function isJointStill(before: SpliceReading | null, now: SpliceReading): boolean {
  if (!before?.ok || !now.ok || before.class !== now.class || before.views.length !== now.views.length)
    return false;
  const moved = now.views.some((view, i) => {
    const other = before.views[i]!.joint;
    return Math.hypot(view.joint.x - other.x, view.joint.y - other.y) > MOST_MOVED;
  });
  const { offsetUm } = now;
  return !moved && Math.abs(offsetUm.value - before.offsetUm.value) < Math.max(0.2, 2 * offsetUm.sd);
}
/** Pixels between two looks. */
const MOST_MOVED = 12;

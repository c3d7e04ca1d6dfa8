import { drag } from 'd3-drag';
import type { ScaleLinear } from 'd3-scale';
import { select } from 'd3-selection';
import { nextTick, onMounted, type Ref, watch } from 'vue';
import type { Block } from './board.model.ts';

interface BlockDrag {
  /** What changes when other blocks are drawn. */
  readonly bind: () => readonly unknown[];
  readonly blockOf: (key: string) => Block | undefined;
  readonly x: () => ScaleLinear<number, number>;
  readonly choose: (block: Block) => void;
  /** Where it is while it is dragged; null when it was let go. */
  readonly hold: (block: Block | null, from: number) => void;
  /** `y` is where it was let go, px of the drawing. */
  readonly drop: (block: Block, from: number, y: number) => void;
}
/** Less than this is a tap, px. */
const TAP_PX = 4;

/** Blocks of a drawing, `g.block.movable` with their keys in `data-key`, dragged along the time by mouse or finger. */
export function useBlockDrag(svg: Ref<SVGSVGElement | null>, with_: BlockDrag): void {
  const blockOf = (element: Element): Block | undefined =>
    with_.blockOf((element as SVGElement).dataset['key'] ?? '');
  function bind(): void {
    if (!svg.value) return;
    let grabbedAt = 0;
    let from: number | null = null;
    const behaviour = drag<SVGGElement, unknown>()
      .clickDistance(TAP_PX)
      .on('start', function (event: { x: number }) {
        const block = blockOf(this);
        if (!block) return;
        grabbedAt = event.x - with_.x()(block.from);
        from = null;
        with_.choose(block);
      })
      .on('drag', function (event: { x: number; y: number }) {
        const block = blockOf(this);
        if (!block) return;
        from = Math.max(0, Math.round(with_.x().invert(event.x - grabbedAt)));
        with_.hold(block, from);
      })
      .on('end', function (event: { y: number }) {
        const block = blockOf(this);
        with_.hold(null, 0);
        if (block && from !== null) with_.drop(block, from, event.y);
      });
    // Positions are those of the drawing, which stays while the block moves.
    behaviour.container(() => svg.value!);
    select(svg.value).selectAll<SVGGElement, unknown>('g.block.movable').call(behaviour);
  }
  onMounted(bind);
  watch(with_.bind, () => void nextTick(bind));
}

import { select } from 'd3-selection';
import { zoom, zoomIdentity, type ZoomTransform } from 'd3-zoom';
import { onMounted, onScopeDispose, type Ref, shallowRef } from 'vue';
import { boxSeen, type Box, isHeld } from './zoom.model.ts';

const MOST = 16;
const STEP = 1.5;
/** Of what is seen, for one press of an arrow. */
const NUDGE = 0.15;

/**
 * Pan and zoom of a drawing: by two fingers, by wheel with Ctrl (alone once it is zoomed, since the wheel scrolls the page
 * before that), by drag once it is zoomed, by the keys + - 0 and the arrows. `box` is all that can be seen, in units of the
 * drawing; what is returned is the part of it that is. `most` is how far it may be brought near; `show` brings
 * what lies from one pixel to another of the unshifted drawing between two others.
 */
export function useZoom(svg: Ref<SVGSVGElement | null>, most = MOST) {
  const at = shallowRef<ZoomTransform>(zoomIdentity);
  const behaviour = zoom<SVGSVGElement, unknown>()
    .scaleExtent([1, most])
    .filter((event: Event) => isHeld(event as never, at.value.k))
    .on('zoom', (event: { transform: ZoomTransform }) => (at.value = event.transform));
  const on = () => select(svg.value!);

  onMounted(() => {
    if (!svg.value) return;
    // A double tap chooses twice; it does not zoom.
    on().call(behaviour).on('dblclick.zoom', null);
  });
  onScopeDispose(() => svg.value && on().on('.zoom', null));

  const by = (factor: number): void => void (svg.value && behaviour.scaleBy(on(), factor));
  const nudge = (dx: number, dy: number): void => {
    const { clientWidth: w, clientHeight: h } = svg.value!;
    behaviour.translateBy(on(), (-dx * NUDGE * w) / at.value.k, (-dy * NUDGE * h) / at.value.k);
  };
  const reset = (): void => void (svg.value && behaviour.transform(on(), zoomIdentity));

  function show(fromPx: number, toPx: number, leftPx: number, rightPx: number): void {
    if (!svg.value) return;
    const k = Math.min(most, Math.max(1, (rightPx - leftPx) / Math.max(1e-9, toPx - fromPx)));
    const shift = (leftPx + rightPx) / 2 - (k * (fromPx + toPx)) / 2;
    behaviour.transform(on(), zoomIdentity.translate(shift, 0).scale(k));
  }

  const KEYS: Readonly<Record<string, () => void>> = {
    '+': () => by(STEP),
    '=': () => by(STEP),
    '-': () => by(1 / STEP),
    '0': reset,
    ArrowLeft: () => nudge(-1, 0),
    ArrowRight: () => nudge(1, 0),
    ArrowUp: () => nudge(0, -1),
    ArrowDown: () => nudge(0, 1),
  };
  function key(event: KeyboardEvent): void {
    const act = event.ctrlKey || event.metaKey || event.altKey ? undefined : KEYS[event.key];
    if (!act) return;
    event.preventDefault();
    event.stopPropagation();
    act();
  }
  const seen = (box: Box): Box => boxSeen(box, at.value, svg.value?.clientWidth ?? 0);
  return { at, seen, key, show, reset, closer: () => by(STEP), further: () => by(1 / STEP) };
}

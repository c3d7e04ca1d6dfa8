import { useEventListener } from '@vueuse/core';
import { NO_SCAN, SCAN_PAUSE_MS, scanStep } from './scan.model.ts';

/**
 * Listens for a keyboard-wedge scanner before anything else hears the keys. A held key that no other follows is given
 * on as the hand's; in a field for text or numbers nothing is held, and a scan takes its own letters out again.
 */
export function useScanner(scanned: (label: string) => boolean): void {
  let state = NO_SCAN;
  let held: KeyboardEvent[] = [];
  let timer: ReturnType<typeof setTimeout> | null = null;
  let replaying = false;

  function replay(): void {
    timer = null;
    const keys = held;
    held = [];
    state = NO_SCAN;
    replaying = true;
    for (const key of keys) {
      const again = new KeyboardEvent('keydown', { key: key.key, bubbles: true, cancelable: true });
      (document.activeElement ?? document.body).dispatchEvent(again);
      // A key that is made by a program types nothing: whatever field the key led to gets its letter by hand.
      if (!again.defaultPrevented) typeInto(document.activeElement, key.key);
    }
    replaying = false;
  }

  function flush(): void {
    if (timer) clearTimeout(timer);
    replay();
  }

  function onKey(event: KeyboardEvent): void {
    if (replaying || event.ctrlKey || event.metaKey || event.altKey || event.isComposing) return;
    const field = event.target instanceof HTMLInputElement || event.target instanceof HTMLTextAreaElement;
    const step = scanStep(state, event.key, event.timeStamp);
    state = step.state;
    if (step.act === 'scanned') {
      const known = scanned(step.label);
      if (timer) clearTimeout(timer);
      timer = null;
      if (!known) return replay();
      held = [];
      event.preventDefault();
      event.stopImmediatePropagation();
      if (field) takeOut(event.target as HTMLInputElement, step.label);
      return;
    }
    if (field) {
      // Keys that were held when the focus came here stand before this one.
      if (held.length > 0) flush();
      state = step.state;
      return;
    }
    if (step.act === 'hold') {
      event.stopImmediatePropagation();
      event.preventDefault();
      held.push(event);
      if (timer) clearTimeout(timer);
      timer = setTimeout(replay, SCAN_PAUSE_MS + 5);
    } else if (held.length > 0) {
      flush();
      if (document.activeElement === event.target) return;
      // The keys before it led into a field: this one, Enter as a rule, belongs there too.
      event.stopImmediatePropagation();
      event.preventDefault();
      held = [event];
      replay();
    }
  }

  function typeInto(field: Element | null, letter: string): void {
    if (!(field instanceof HTMLInputElement || field instanceof HTMLTextAreaElement)) return;
    if (letter.length !== 1) return;
    field.setRangeText(
      letter,
      field.selectionStart ?? field.value.length,
      field.selectionEnd ?? field.value.length,
      'end',
    );
    field.dispatchEvent(new InputEvent('input', { data: letter, bubbles: true }));
  }

  function takeOut(field: HTMLInputElement, label: string): void {
    if (!field.value.endsWith(label)) return;
    field.value = field.value.slice(0, -label.length);
    field.dispatchEvent(new Event('input', { bubbles: true }));
  }

  useEventListener(window, 'keydown', onKey, { capture: true });
}

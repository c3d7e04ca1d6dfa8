// @vitest-environment happy-dom
import { afterEach, describe, expect, it, vi } from 'vitest';
import { effectScope } from 'vue';
import { SCAN_PAUSE_MS } from './scan.model.ts';
import { useScanner } from './use-scanner.ts';

const scope = effectScope();
const scans: string[] = [];
scope.run(() =>
  useScanner((label) => {
    scans.push(label);
    return label.startsWith('CM-');
  }),
);

afterEach(() => {
  vi.useRealTimers();
  scans.length = 0;
  document.body.innerHTML = '';
});

function fieldWithFocus(): HTMLInputElement {
  const field = document.createElement('input');
  document.body.append(field);
  field.focus();
  return field;
}
/** A key as the browser gives it: who listens first, then, in a field, its letter. */
function press(key: string): KeyboardEvent {
  const target = document.activeElement ?? document.body;
  const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true });
  target.dispatchEvent(event);
  if (target instanceof HTMLInputElement && key.length === 1 && !event.defaultPrevented) target.value += key;
  return event;
}

describe('keys beside a scanner', () => {
  it('a key that was held when the focus came to a field stands before the next one', () => {
    vi.useFakeTimers();
    press('r');
    const field = fieldWithFocus();
    press('e');
    press('t');
    vi.advanceTimersByTime(SCAN_PAUSE_MS * 2);
    expect(field.value).toBe('ret');
  });

  it('a held key that no other follows is given on as the hand’s', () => {
    vi.useFakeTimers();
    const heard: string[] = [];
    const listen = (event: KeyboardEvent): void => void heard.push(event.key);
    document.body.addEventListener('keydown', listen);
    expect(press('p').defaultPrevented).toBe(true);
    expect(heard).toEqual([]);
    vi.advanceTimersByTime(SCAN_PAUSE_MS * 2);
    expect(heard).toEqual(['p']);
    document.body.removeEventListener('keydown', listen);
  });

  it('a label typed at once and ended by Enter is a scan, and a field gets its letters taken out again', () => {
    vi.useFakeTimers();
    const field = fieldWithFocus();
    field.value = 'note ';
    for (const key of 'CM-4711') press(key);
    expect(press('Enter').defaultPrevented).toBe(true);
    expect(scans).toEqual(['CM-4711']);
    expect(field.value).toBe('note ');
  });

  it('a label that nobody knows stays in the field that it was typed into', () => {
    vi.useFakeTimers();
    const field = fieldWithFocus();
    for (const key of 'XX-1') press(key);
    press('Enter');
    expect(scans).toEqual(['XX-1']);
    expect(field.value).toBe('XX-1');
  });
});

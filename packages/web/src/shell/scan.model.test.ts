import { describe, expect, it } from 'vitest';
import { NO_SCAN, scanStep } from './scan.model.ts';

function press(keys: readonly string[], pause: number) {
  let state = NO_SCAN;
  return keys.map((key, i) => {
    const step = scanStep(state, key, i * pause);
    state = step.state;
    return step;
  });
}

describe('a scanner on the keyboard', () => {
  it('reads a label whole, capitals and digits and the dash', () => {
    const last = press([...'DP-41', 'Enter'], 4).pop();
    expect(last).toMatchObject({ act: 'scanned', label: 'DP-41' });
  });
  it('is not a hand: slower keys, and too few of them, are passed on', () => {
    expect(press([...'DP-41', 'Enter'], 120).pop()!.act).toBe('pass');
    expect(press(['4', '2', 'Enter'], 4).pop()!.act).toBe('pass');
    expect(press(['Enter'], 4).pop()!.act).toBe('pass');
  });
  it('holds each printable key back, and no other', () => {
    expect(press(['x'], 4)[0]!.act).toBe('hold');
    expect(press(['ArrowDown'], 4)[0]!.act).toBe('pass');
  });
  it('begins anew after a pause', () => {
    let state = scanStep(NO_SCAN, 'x', 0).state;
    state = scanStep(state, 'D', 500).state;
    expect(state.text).toBe('D');
  });
});

import { describe, expect, it } from 'vitest';
import { seal, unseal } from './seal.ts';

const KEY = 'ab'.repeat(32);

describe('what is left on a device', () => {
  it('opens under the key that it was sealed with, and shows nothing of itself before', async () => {
    const text = JSON.stringify({ note: 'Ada Tern, cleave at 2.1 degrees' });
    const sealed = await seal(text, KEY);
    expect(new TextDecoder('latin1').decode(sealed.data)).not.toContain('Ada');
    expect(await unseal(sealed, KEY)).toBe(text);
  });
  it('stays shut under another key, and after a change', async () => {
    const sealed = await seal('secret', KEY);
    expect(await unseal(sealed, 'cd'.repeat(32))).toBeNull();
    const bent = new Uint8Array(sealed.data.slice(0));
    bent[0]! ^= 1;
    expect(await unseal({ iv: sealed.iv, data: bent.buffer }, KEY)).toBeNull();
  });
  it('is sealed otherwise each time', async () => {
    const one = await seal('x', KEY);
    const two = await seal('x', KEY);
    expect([...new Uint8Array(one.data)]).not.toEqual([...new Uint8Array(two.data)]);
  });
  it('wants a whole key', async () => {
    await expect(seal('x', 'short')).rejects.toThrow(TypeError);
  });
});

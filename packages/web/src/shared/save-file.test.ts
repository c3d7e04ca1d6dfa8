// @vitest-environment happy-dom
import { afterEach, describe, expect, it, vi } from 'vitest';
import { download, fileName } from './save-file.ts';

afterEach(() => {
  vi.restoreAllMocks();
  vi.useRealTimers();
});

describe('a file for the person', () => {
  it('is named by its title', () => {
    expect(fileName('Losses at 1310 nm, A to B', 'png')).toBe('losses-at-1310-nm-a-to-b.png');
    expect(fileName(' Café ', 'csv')).toBe('caf.csv');
  });
  it('is handed over by its name, and its address is let go only when it has been read', () => {
    vi.useFakeTimers();
    vi.spyOn(URL, 'createObjectURL').mockReturnValue('blob:one');
    const letGo = vi.spyOn(URL, 'revokeObjectURL');
    const clicked: string[] = [];
    vi.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function (this: HTMLAnchorElement) {
      clicked.push(`${this.download} ${this.href}`);
    });
    download('list.csv', new Blob(['a']));
    expect(clicked).toEqual(['list.csv blob:one']);
    expect(letGo).not.toHaveBeenCalled();
    vi.advanceTimersByTime(60_000);
    expect(letGo).toHaveBeenCalledWith('blob:one');
  });
});

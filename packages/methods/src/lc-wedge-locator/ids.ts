/** Criterion ids last across versions; they are never reused for something else. */
export const id = (name: string): string => `clear-mark/lc-wedge-locator/${name}`;

/** Numbers from 0 to 1 from a seed (the minimal standard generator). */
export function numbers(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state * 48271) % 2147483647;
    return state / 2147483647;
  };
}

/**
 * The value at place `k` (from 0) of the ascending order, by Hoare's selection; the array is rearranged. Mean cost is
 * linear, where sorting a picture's pixels takes most of the time that measuring it does. `k` is held to the array.
 */
export function selectNth(values: Float32Array, k: number): number {
  let low = 0;
  let high = values.length - 1;
  const at = Math.max(0, Math.min(high, k));
  while (low < high) {
    const pivot = values[(low + high) >> 1]!;
    let i = low;
    let j = high;
    while (i <= j) {
      while (values[i]! < pivot) i++;
      while (values[j]! > pivot) j--;
      if (i <= j) {
        const held = values[i]!;
        values[i++] = values[j]!;
        values[j--] = held;
      }
    }
    if (at <= j) high = j;
    else if (at >= i) low = i;
    else break;
  }
  return values[at] ?? 0;
}

/** The middle of an ascending order (the upper of two), 0 of nothing; the array is rearranged. */
export const middleOf = (values: Float32Array): number => selectNth(values, values.length >> 1);

/** The middle of the sizes of numbers of either sign, 0 of nothing. */
export function middleSize(values: ArrayLike<number>): number {
  const sizes = new Float32Array(values.length);
  for (let i = 0; i < sizes.length; i++) sizes[i] = Math.abs(values[i]!);
  return middleOf(sizes);
}

/** Each value as the mean of it and of so many to both sides; fewer at the ends. */
export function runningMean(values: Float32Array, reach: number): Float32Array {
  return values.map((_, k) => {
    let sum = 0;
    let n = 0;
    for (let j = Math.max(0, k - reach); j <= Math.min(values.length - 1, k + reach); j++) {
      sum += values[j]!;
      n += 1;
    }
    return sum / n;
  });
}

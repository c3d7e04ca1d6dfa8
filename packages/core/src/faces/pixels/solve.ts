/** Solves a small system by elimination with row exchange; null where it is singular to 1e-12 of a pivot. */
export function solve(a: readonly ArrayLike<number>[], b: ArrayLike<number>): number[] | null {
  const n = b.length;
  const wide = n + 1;
  // Row by row, with the right side as the last column.
  const m = new Float64Array(n * wide);
  for (let row = 0; row < n; row++) {
    for (let k = 0; k < n; k++) m[row * wide + k] = a[row]![k]!;
    m[row * wide + n] = b[row]!;
  }
  for (let col = 0; col < n; col++) {
    let pivot = col;
    for (let row = col + 1; row < n; row++)
      if (Math.abs(m[row * wide + col]!) > Math.abs(m[pivot * wide + col]!)) pivot = row;
    if (Math.abs(m[pivot * wide + col]!) < 1e-12) return null;
    if (pivot !== col) {
      for (let k = 0; k <= n; k++) {
        const held = m[col * wide + k]!;
        m[col * wide + k] = m[pivot * wide + k]!;
        m[pivot * wide + k] = held;
      }
    }
    for (let row = 0; row < n; row++) {
      if (row === col) continue;
      const factor = m[row * wide + col]! / m[col * wide + col]!;
      for (let k = col; k <= n; k++) m[row * wide + k]! -= factor * m[col * wide + k]!;
    }
  }
  const found: number[] = [];
  for (let row = 0; row < n; row++) found.push(m[row * wide + n]! / m[row * wide + row]!);
  return found;
}

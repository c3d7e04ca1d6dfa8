/**
 * Lower factor of a positive definite matrix, row by row, in place of its lower triangle; the upper is left. False where it
 * is not positive definite.
 */
export function factorize(m: Float64Array, q: number): boolean {
  for (let j = 0; j < q; j++) {
    const rj = j * q;
    let d = m[rj + j]!;
    for (let k = 0; k < j; k++) d -= m[rj + k]! * m[rj + k]!;
    if (!(d > 0)) return false;
    const root = Math.sqrt(d);
    m[rj + j] = root;
    for (let i = j + 1; i < q; i++) {
      const ri = i * q;
      let sum = m[ri + j]!;
      for (let k = 0; k < j; k++) sum -= m[ri + k]! * m[rj + k]!;
      m[ri + j] = sum / root;
    }
  }
  return true;
}

/** Solves L x = b in place. */
export function forward(l: Float64Array, q: number, b: Float64Array): void {
  for (let i = 0; i < q; i++) {
    let sum = b[i]!;
    const row = i * q;
    for (let k = 0; k < i; k++) sum -= l[row + k]! * b[k]!;
    b[i] = sum / l[row + i]!;
  }
}

/** Solves L' x = b in place. */
export function backward(l: Float64Array, q: number, b: Float64Array): void {
  for (let i = q - 1; i >= 0; i--) {
    const x = b[i]! / l[i * q + i]!;
    b[i] = x;
    const row = i * q;
    for (let k = 0; k < i; k++) b[k]! -= l[row + k]! * x;
  }
}

/** Inverse from the lower factor, whole and symmetric. */
export function inverseOf(l: Float64Array, q: number): Float64Array {
  const out = new Float64Array(q * q);
  const column = new Float64Array(q);
  for (let j = 0; j < q; j++) {
    column.fill(0);
    column[j] = 1;
    forward(l, q, column);
    backward(l, q, column);
    for (let i = 0; i < q; i++) out[i * q + j] = column[i]!;
  }
  return out;
}

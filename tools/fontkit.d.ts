declare module 'fontkit' {
  /** A typeface; `characterSet` are the code points that it has letters for. */
  export function openSync(file: string): { readonly characterSet: readonly number[] };
}

declare module 'fontkit' {
  /** A typeface; `characterSet` are the code points that it has letters for. */
  export function openSync(file: string): { readonly characterSet: readonly number[] };
  export function create(bytes: Buffer): {
    readonly postscriptName: string;
    readonly unitsPerEm: number;
    readonly characterSet: readonly number[];
    readonly layout: (text: string) => {
      readonly advanceWidth: number;
      readonly glyphs: readonly { readonly path: { readonly toSVG: () => string } }[];
      readonly positions: readonly { readonly xAdvance: number }[];
    };
  };
}

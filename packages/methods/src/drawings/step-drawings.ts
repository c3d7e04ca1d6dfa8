import { TRUNK_TYPES, trunkMap, type TrunkType } from '@clear-mark/core';

/** A stroke, filled part or word of a step's drawing; styles are given their colours by the view. */
export type StepMark =
  | { readonly style: 'line' | 'thin' | 'part' | 'fiber' | 'glow' | 'wrong'; readonly path: string }
  | { readonly style: 'word'; readonly x: number; readonly y: number; readonly text: string };

export interface StepDrawing {
  readonly width: number;
  readonly height: number;
  /** What the drawing shows, for those who cannot see it. */
  readonly says: string;
  readonly marks: readonly StepMark[];
}

const line = (path: string): StepMark => ({ style: 'line', path });
const thin = (path: string): StepMark => ({ style: 'thin', path });
const part = (path: string): StepMark => ({ style: 'part', path });
const fiber = (path: string): StepMark => ({ style: 'fiber', path });
const glow = (path: string): StepMark => ({ style: 'glow', path });
const wrong = (path: string): StepMark => ({ style: 'wrong', path });
const word = (x: number, y: number, text: string): StepMark => ({ style: 'word', x, y, text });
const box = (x: number, y: number, w: number, h: number): string => `M${x} ${y}h${w}v${h}h${-w}Z`;
const disc = (x: number, y: number, r: number): string =>
  `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0Z`;
const arrowDown = (x: number, y: number): string =>
  `M${x} ${y - 16}V${y}M${x - 5} ${y - 6}L${x} ${y}L${x + 5} ${y - 6}`;
const arrowUp = (x: number, y: number): string =>
  `M${x} ${y + 16}V${y}M${x - 5} ${y + 6}L${x} ${y}L${x + 5} ${y + 6}`;

/** Connector on the left, holder on the right, the fiber between them as one panel. */
const bowPanel = (x: number, curve: string, caption: string): StepMark[] => [
  part(box(x, 40, 26, 24)),
  part(box(x + 94, 40, 22, 24)),
  fiber(`M${x + 26} 52${curve}${x + 94} 52`),
  word(x, 86, caption),
];

/** A cable cut across: sheath, and what is inside it. */
const cableFace = (...inside: StepMark[]): StepMark[] => [part(disc(44, 48, 34)), ...inside];
const bracket = (...more: StepMark[]): StepMark[] => [
  part(box(104, 40, 54, 16)),
  line('M158 62H290V34'),
  thin('M120 32v32M140 32v32'),
  word(104, 84, 'hose clamp'),
  ...more,
];

const ports = (type: TrunkType, x: number): StepMark[] => [
  thin(
    trunkMap(type, 12)
      .map((far, i) => `M${x} ${8 + i * 6}L${x + 64} ${8 + (far - 1) * 6}`)
      .join(''),
  ),
  line(`M${x} 4V78M${x + 64} 4V78`),
  word(x + 12, 96, `type ${type}`),
];

/** The front of a multi-fiber connector: its key, its row, and pins or the holes for them. */
const front = (x: number, keyUp: boolean, pins: boolean, caption: string): StepMark[] => [
  part(box(x, 26, 96, 36)),
  line(keyUp ? box(x + 38, 18, 20, 8) : box(x + 38, 62, 20, 8)),
  fiber(Array.from({ length: 12 }, (_, i) => `M${x + 26 + i * 4} 44v0.1`).join('')),
  pins
    ? { style: 'line', path: `${disc(x + 13, 44, 5)}${disc(x + 83, 44, 5)}M${x + 10} 44h6M${x + 80} 44h6` }
    : thin(`${disc(x + 13, 44, 5)}${disc(x + 83, 44, 5)}`),
  word(x, 92, caption),
];

/** Drawings for steps where words fail. One hand: the same strokes, the connector to the left, the cord to the right. */
export const STEP_DRAWINGS: Readonly<Record<string, StepDrawing>> = {
  bow: {
    width: 400,
    height: 92,
    says: 'Three fibers between connector and holder: straight, slightly bowed, and bowed far too much. The slight bow is right.',
    marks: [
      ...bowPanel(4, 'L', 'none: not home'),
      ...bowPanel(142, 'Q202 26 ', 'slight: right'),
      ...bowPanel(280, 'C300 -6 370 -6 ', 'large, early'),
    ],
  },
  'two-crimps': {
    width: 320,
    height: 96,
    says: 'Crimp positions: the first die at the body end of the sleeve, over the yarn; the second at the jacket end.',
    marks: [
      part(box(4, 26, 76, 36)),
      part(box(80, 32, 110, 24)),
      part(box(190, 37, 120, 14)),
      thin('M84 32l12 24M96 32l12 24M108 32l12 24'),
      line(arrowDown(100, 26)),
      line(arrowUp(100, 62)),
      line(arrowDown(172, 26)),
      line(arrowUp(172, 62)),
      word(70, 94, '1: yarn, at the body'),
      word(192, 94, '2: jacket'),
    ],
  },
  windows: {
    width: 340,
    height: 96,
    says: 'A connector with three windows. Dark windows pass; clear light at a window means that the fibers do not meet.',
    marks: [
      part(box(4, 26, 130, 34)),
      line(`${box(28, 34, 16, 18)}${box(60, 34, 16, 18)}${box(92, 34, 16, 18)}`),
      word(4, 84, 'dark: good'),
      part(box(190, 26, 130, 34)),
      line(`${box(214, 34, 16, 18)}${box(246, 34, 16, 18)}${box(278, 34, 16, 18)}`),
      glow(box(246, 34, 16, 18)),
      glow('M254 30v-14M244 31l-8 -12M264 31l8 -12'),
      word(190, 84, 'light: do it again'),
    ],
  },
  'figure-eight': {
    width: 360,
    height: 104,
    says: 'The film on its pad with the path of the puck: a figure of eight, 50 to 75 mm high on the first pass, at most 38 mm on the final one.',
    marks: [
      part(box(4, 8, 128, 88)),
      line('M68 52C28 22 28 12 68 12C108 12 108 22 68 52C28 82 28 92 68 92C108 92 108 82 68 52Z'),
      thin('M146 12H154M150 12V92M146 92H154'),
      word(160, 48, 'first: 50 to'),
      word(160, 66, '75 mm'),
      line('M268 52C248 37 248 30 268 30C288 30 288 37 268 52C248 67 248 74 268 74C288 74 288 67 268 52Z'),
      word(236, 98, 'final: to 38 mm'),
    ],
  },
  squeeze: {
    width: 300,
    height: 92,
    says: 'The wedge is squeezed on both sides at once, after the bow has formed.',
    marks: [
      part(box(90, 34, 110, 26)),
      part(box(4, 40, 86, 14)),
      fiber('M200 47Q236 28 272 47'),
      part(box(272, 38, 24, 18)),
      line(arrowDown(145, 30)),
      line(arrowUp(145, 64)),
      word(160, 22, 'both sides'),
      word(210, 78, 'bow first'),
    ],
  },
  scribe: {
    width: 300,
    height: 92,
    says: 'One light stroke of the blade, bevel up, at the top of the bead where the fiber leaves it; then a straight pull.',
    marks: [
      part(box(4, 26, 110, 38)),
      part('M114 34Q134 36 136 45Q134 54 114 56Z'),
      fiber('M136 45H236'),
      line('M128 18L140 41L152 18'),
      line('M236 45H290M280 39L290 45L280 51'),
      word(158, 22, 'at the bead, once'),
      word(206, 74, 'pull straight'),
    ],
  },
  'pin-and-key': {
    width: 360,
    height: 98,
    says: 'Fronts of multi-fiber connectors: key up with pins, as in a module, and key down without pins, as on a cord.',
    marks: [...front(8, true, true, 'key up, pins'), ...front(190, false, false, 'key down, no pins')],
  },
  'trunk-types': {
    width: 320,
    height: 102,
    says: 'Maps of the three trunk types: A straight through, B reversed, C with pairs crossed.',
    marks: TRUNK_TYPES.flatMap((type, i) => ports(type, 8 + i * 110)),
  },
  'bracket-central': {
    width: 320,
    height: 92,
    says: 'A large central strength member: cable against the bottom slot, member held by lug and bolt on the extension bracket.',
    marks: [
      ...cableFace({ style: 'line', path: disc(44, 48, 10) }),
      ...bracket(line('M158 48H246'), { style: 'line', path: disc(254, 48, 8) }, word(222, 26, 'lug, bolt')),
    ],
  },
  'bracket-armored': {
    width: 320,
    height: 92,
    says: 'An armored cable: shield connector in below the sheath and bonded, member held as with a central one.',
    marks: [
      ...cableFace(thin(disc(44, 48, 28)), { style: 'line', path: disc(44, 48, 10) }),
      ...bracket(
        line('M158 48H246'),
        { style: 'line', path: `${disc(254, 48, 8)}M168 40v-14M162 26h12` },
        word(180, 22, 'shield, stud, nut'),
      ),
    ],
  },
  'bracket-embedded': {
    width: 320,
    height: 92,
    says: 'Members embedded in the sheath: one set cut flush at the opening, the other held under the cap at the end of the bracket.',
    marks: [
      ...cableFace(line(`${disc(44, 20, 4)}${disc(44, 76, 4)}`)),
      ...bracket(
        line('M158 44H276'),
        wrong('M158 52h8'),
        line(box(274, 34, 16, 18)),
        word(176, 26, 'one flush, one held'),
      ),
    ],
  },
  'bracket-roddable': {
    width: 320,
    height: 92,
    says: 'Sub-units of a fast-access cable: no member is held; hose clamp only.',
    marks: [
      ...cableFace(thin(`${disc(34, 38, 9)}${disc(54, 38, 9)}${disc(34, 58, 9)}${disc(54, 58, 9)}`)),
      ...bracket(thin('M158 44H280M158 52H280'), word(182, 26, 'none held here')),
    ],
  },
  'bracket-unitube': {
    width: 320,
    height: 92,
    says: 'A single central tube: both members under the cap at the end of the bracket before its nut is tightened.',
    marks: [
      ...cableFace(thin(disc(44, 48, 14)), line(`${disc(44, 20, 4)}${disc(44, 76, 4)}`)),
      ...bracket(
        line('M158 44H276M158 52H276'),
        line(box(274, 34, 16, 24)),
        word(182, 26, 'both under the cap'),
      ),
    ],
  },
};

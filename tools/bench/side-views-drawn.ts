import { type GreyImage, measureCleave, measureSplice } from '@clear-mark/core';
import { drawCleave, drawSplice, randomCleaveScene, randomSpliceScene, rngFrom } from '@clear-mark/sim';
import { Errors } from '../../packages/sim/src/errors-for-tests.ts';
import { otherCleave } from '../../packages/sim/src/other-cleave-for-tests.ts';
import { otherSplice } from '../../packages/sim/src/other-splice-for-tests.ts';
import type { Measured } from './measured.ts';

const WIDTH = 640;
const HEIGHT = 480;
const COUNT = 60;
const SEED = 91_000;
/** 95 % of the angles of faces without hackle lie off less, degrees; of the offsets of joints, µm: straight ones, and with curl. */
const GOAL = { angleDeg: 0.15, straightUm: 0.3, curledUm: 0.6, coreUm: 0.4 };

function told(errors: Errors, unit: string): string {
  const covered = (100 * errors.covered).toFixed(0);
  return `${errors.at(0.5).toFixed(3)} / ${errors.at(0.95).toFixed(3)} ${unit} of ${errors.count}, ${covered} % covered`;
}

interface DrawnCleave extends GreyImage {
  readonly ends: readonly { readonly side: string; readonly look: string; readonly angleDeg: number }[];
}
const CLEAVES: Readonly<Record<string, (seed: number) => DrawnCleave>> = {
  own: (seed) => {
    const rng = rngFrom(seed);
    const view = drawCleave(randomCleaveScene(rng, { width: WIDTH, height: HEIGHT }), rng);
    return { width: WIDTH, height: HEIGHT, data: view.data, ends: view.scene.ends };
  },
  'second way': (seed) => otherCleave(rngFrom(seed), WIDTH),
};

/** How far angles of cleaves lie off what was drawn, in fresh pictures of both ways to draw them; the worse way counts. */
export function benchCleavesDrawn(): Measured {
  const found = Object.entries(CLEAVES).map(([name, draw]) => {
    const clean = new Errors();
    const hackle = new Errors();
    let right = 0;
    let ends = 0;
    let refused = 0;
    for (let i = 0; i < COUNT; i++) {
      const drawn = draw(SEED + i);
      const reading = measureCleave(drawn);
      if (!reading.ok) refused += 1;
      for (const truth of drawn.ends) {
        const end = reading.ok ? reading.ends.find((e) => e.side === truth.side) : undefined;
        ends += 1;
        if (end?.class === truth.look) right += 1;
        if (!end || end.angleDeg === null || truth.look === 'broken') continue;
        (truth.look === 'hackle' ? hackle : clean).add(end.angleDeg - truth.angleDeg, end.angleSd!);
      }
    }
    const line = `${name}: clean ${told(clean, '°')}; hackle ${told(hackle, '°')}; ${right} of ${ends} called right, ${refused} of ${COUNT} refused`;
    return { at95: clean.at(0.95), line };
  });
  return {
    name: `Angles of cleaves: 95 % of the faces without hackle lie off less / ${GOAL.angleDeg}°, the worse of two ways to draw them`,
    ratio: Math.max(...found.map((f) => f.at95)) / GOAL.angleDeg,
    most: 1,
    unit: 'times',
    detail: found.map((f) => f.line).join('; '),
  };
}

interface DrawnSplice extends GreyImage {
  readonly look: string;
  readonly views: 1 | 2;
  readonly isCurled: boolean;
  readonly offsetUm: number;
  readonly coreOffsetUm: number;
}
const SPLICES: Readonly<Record<string, (seed: number) => DrawnSplice>> = {
  own: (seed) => {
    const rng = rngFrom(seed);
    const view = drawSplice(randomSpliceScene(rng, { width: WIDTH, height: HEIGHT }), rng);
    const { look, sides, curlMm } = view.scene;
    return { ...view, look, views: sides.length as 1 | 2, isCurled: curlMm !== null };
  },
  'second way': (seed) => otherSplice(rngFrom(seed), undefined, WIDTH),
};

/** How far offsets of joints lie off what was drawn, in fresh pictures of both ways to draw them; the worst against its goal counts. */
export function benchSplicesDrawn(): Measured {
  const found = Object.entries(SPLICES).map(([name, draw]) => {
    const straight = new Errors();
    const curled = new Errors();
    const cores = new Errors();
    let right = 0;
    let refused = 0;
    for (let i = 0; i < COUNT; i++) {
      const drawn = draw(SEED + i);
      const reading = measureSplice(drawn, { views: drawn.views });
      if (!reading.ok) {
        refused += 1;
        continue;
      }
      if (reading.class === drawn.look) right += 1;
      const off = Math.abs(reading.offsetUm.value) - drawn.offsetUm;
      (drawn.isCurled ? curled : straight).add(off, reading.offsetUm.sd);
      const core = reading.coreOffsetUm;
      if (core) cores.add(Math.abs(core.value) - drawn.coreOffsetUm, core.sd);
    }
    const line = `${name}: straight ${told(straight, 'µm')}; curled ${told(curled, 'µm')}; cores ${told(cores, 'µm')}; ${right} of ${COUNT} called right, ${refused} refused`;
    const ratio = Math.max(
      straight.at(0.95) / GOAL.straightUm,
      curled.at(0.95) / GOAL.curledUm,
      cores.at(0.95) / GOAL.coreUm,
    );
    return { ratio, line };
  });
  return {
    name: `Offsets of joints: 95 % lie off less / ${GOAL.straightUm} µm straight, ${GOAL.curledUm} curled, ${GOAL.coreUm} cores, the worst of two ways to draw them`,
    ratio: Math.max(...found.map((f) => f.ratio)),
    most: 1,
    unit: 'times',
    detail: found.map((f) => f.line).join('; '),
  };
}

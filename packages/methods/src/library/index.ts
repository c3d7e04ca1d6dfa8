import type { MethodSheet } from '@clear-mark/core';
import { ACRYLIC } from './acrylic/sheet.ts';
import { BENCH_CLEAVE } from './bench-cleave/sheet.ts';
import { BLIND_CALLS } from './blind-calls/sheet.ts';
import { BUFFER_STRIP_900 } from './buffer-strip-900/sheet.ts';
import { CAM_LIGHT } from './cam-light/sheet.ts';
import { CLOSURE } from './closure/sheet.ts';
import { DUPLEX_ASSEMBLY } from './duplex-assembly/sheet.ts';
import { EPOXY_HEAT } from './epoxy-heat/sheet.ts';
import { FLAT_DROP } from './flat-drop/sheet.ts';
import { FLAT_JIG } from './flat-jig/sheet.ts';
import { FUSED_MPO } from './fused-mpo/sheet.ts';
import { HANDLE_CRIMP } from './handle-crimp/sheet.ts';
import { HOLDER_BASE } from './holder-base/sheet.ts';
import { INSPECTION } from './inspection/sheet.ts';
import { LOCATOR_CONTINUITY } from './locator-continuity/sheet.ts';
import { LOSS_BY_CORDS } from './loss-by-cords/sheet.ts';
import { MPO_TRUNK } from './mpo-trunk/sheet.ts';
import { OTDR_LINK, READ_A_TRACE } from './otdr/sheet.ts';
import { PLUNGER_CRIMP } from './plunger-crimp/sheet.ts';
import { RIBBON_SPLICE } from './ribbon-splice/sheet.ts';
import { ROUND_CORD } from './round-cord/sheet.ts';
import { SCRIBE_PULL } from './scribe-pull/sheet.ts';
import { SINGLE_FUSION } from './single-fusion/sheet.ts';
import { WEDGE } from './wedge/sheet.ts';

/** The shipped methods in the order in which the work runs. */
export const LIBRARY: readonly MethodSheet[] = [
  ROUND_CORD,
  BUFFER_STRIP_900,
  FLAT_DROP,
  ...CLOSURE,
  BENCH_CLEAVE,
  SCRIBE_PULL,
  EPOXY_HEAT,
  ...ACRYLIC,
  HANDLE_CRIMP,
  CAM_LIGHT,
  ...WEDGE,
  HOLDER_BASE,
  FLAT_JIG,
  PLUNGER_CRIMP,
  SINGLE_FUSION,
  RIBBON_SPLICE,
  FUSED_MPO,
  DUPLEX_ASSEMBLY,
  ...INSPECTION,
  BLIND_CALLS,
  ...LOSS_BY_CORDS,
  LOCATOR_CONTINUITY,
  MPO_TRUNK,
  OTDR_LINK,
  READ_A_TRACE,
];

export { buildPlan } from './build-plan.ts';
export { dayWanted, instantOf, type KeptDay, minuteOf } from './day-wanted.ts';
export { dispatchPlan, type DispatchRule } from './dispatch-plan.ts';
export { type MovedStep, movedSteps, replan, type Replanned } from './replan.ts';
export { type CureOfMethod, pieceSteps, type PlannedMethod, stretchedTo } from './piece-steps.ts';
export { type PlanFault, planFaults } from './check-plan.ts';
export { leastEnd, type LeastEnd, leastOnMachines } from './least-end.ts';
export { firstCome, searchPlan, type SearchOptions, usualTries } from './search-plan.ts';
export {
  type Away,
  type CureStep,
  type DayPlan,
  type DayResources,
  type DayWanted,
  type FixedStep,
  type Oven,
  OVEN_WAYS,
  type OvenWay,
  type PieceStep,
  type PieceWanted,
  type PlannedLoad,
  type PlannedWork,
  type Span,
  type WorkStep,
} from './types.ts';
export {
  changesThatFit,
  DAY_CHANGES,
  type DayChange,
  overBound,
  type TriedChange,
  whyLeft,
  type WhyLeft,
} from './what-fits.ts';

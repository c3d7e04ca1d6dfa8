export { buildPlan } from './build-plan.ts';
export { type PlanFault, planFaults } from './check-plan.ts';
export { leastEnd, type LeastEnd } from './least-end.ts';
export { firstCome, searchPlan, type SearchOptions } from './search-plan.ts';
export {
  type CureStep,
  type DayPlan,
  type DayResources,
  type DayWanted,
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

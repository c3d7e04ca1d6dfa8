import type { DayPlan, DayWanted, MovedStep, TriedChange } from '@clear-mark/core';

/** What the page asks of the worker. */
export type PlanOrder =
  | { readonly kind: 'search'; readonly day: DayWanted }
  | { readonly kind: 'replan'; readonly day: DayWanted; readonly before: DayPlan }
  | { readonly kind: 'changes'; readonly day: DayWanted; readonly plan: DayPlan };
export type PlanNews =
  | { readonly news: 'progress'; readonly done: number; readonly best: DayPlan }
  | {
      readonly news: 'plan';
      readonly plan: DayPlan;
      readonly moved: readonly MovedStep[];
      readonly ms: number;
    }
  | { readonly news: 'changes'; readonly tried: readonly TriedChange[] };

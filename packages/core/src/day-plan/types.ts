/** How pieces stand in an oven: single-fiber connectors hang, multi-fiber ones lie flat (common practice). */
export const OVEN_WAYS = ['hanging', 'flat'] as const;
export type OvenWay = (typeof OVEN_WAYS)[number];

/** A step of a piece that somebody works on, in whole minutes. */
export interface WorkStep {
  readonly kind: 'work';
  readonly name: string;
  readonly minutes: number;
  /** A kind of station that is shared, such as `splicer`; null at the trainee's own bench. */
  readonly station: string | null;
  /** So many minutes at its end an instructor watches. */
  readonly watched: number;
  /** What it uses is good until then: it ends by this minute of the day. */
  readonly by?: number;
}
/** A step in the oven: nobody is busy with it, and breaks do not stop it. */
export interface CureStep {
  readonly kind: 'cure';
  readonly name: string;
  readonly minutes: number;
  /** Minutes after it until the piece may be touched; the oven is free meanwhile. */
  readonly cool?: number;
  /** Loads hold one schedule only, such as `epoxy 25 min`. */
  readonly schedule: string;
  readonly way: OvenWay;
}
export type PieceStep = WorkStep | CureStep;

/** A piece that is wanted: its steps follow each other. */
export interface PieceWanted {
  readonly id: string;
  readonly traineeId: string;
  readonly steps: readonly PieceStep[];
}

/** From and to in minutes since the day began. */
export interface Span {
  readonly from: number;
  readonly to: number;
}
export interface Oven {
  readonly id: string;
  readonly places: Readonly<Record<OvenWay, number>>;
  /** Minutes from the end of a load until the next goes in. */
  readonly rest: number;
}
/** What there is on a day. */
export interface DayResources {
  /** When work is done, in order, apart from each other: the hours without the breaks. */
  readonly hours: readonly Span[];
  /** How many of each kind of station. */
  readonly stations: Readonly<Record<string, number>>;
  readonly ovens: readonly Oven[];
  readonly instructors: number;
}
/** Who or what is not there for a while; stations and instructors are counted from 1. */
export type Away = Span & {
  readonly of:
    | { readonly kind: 'trainee'; readonly id: string }
    | { readonly kind: 'oven'; readonly id: string }
    | { readonly kind: 'station'; readonly id: string; readonly unit: number }
    | { readonly kind: 'instructor'; readonly unit: number };
};
/** A step that stays where it is: done, under way, or held by hand. Work, or the load that it is in. */
export type FixedStep =
  | { readonly kind: 'work'; readonly work: PlannedWork }
  | { readonly kind: 'load'; readonly load: PlannedLoad };

export interface DayWanted extends DayResources {
  readonly pieces: readonly PieceWanted[];
  /** Nothing begins before it but what is fixed; minutes since the day began. */
  readonly notBefore?: number;
  readonly fixed?: readonly FixedStep[];
  readonly away?: readonly Away[];
}

export interface PlannedWork extends Span {
  readonly pieceId: string;
  readonly step: number;
  /** The station, counted from 1; null at the bench. */
  readonly unit: number | null;
  /** The instructor who watches its end, counted from 1; null where nobody has to. */
  readonly instructor: number | null;
}
export interface PlannedLoad extends Span {
  readonly ovenId: string;
  readonly schedule: string;
  readonly way: OvenWay;
  readonly members: readonly { readonly pieceId: string; readonly step: number }[];
}
/** A plan of a day. */
export interface DayPlan {
  readonly work: readonly PlannedWork[];
  readonly loads: readonly PlannedLoad[];
  /** Pieces that do not fit into the day; nothing of them is planned. */
  readonly left: readonly string[];
  /** When the last piece is done, minutes since the day began; 0 where nothing is planned. */
  readonly endsAt: number;
}

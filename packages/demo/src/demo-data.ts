import type { Entry, LightSource, MethodSheet, ReferenceMethod, ThingKind } from '@clear-mark/core';

export interface DemoPerson {
  readonly id: string;
  readonly name: string;
  readonly login: string;
  readonly role: 'lead' | 'instructor' | 'trainee';
}
export interface DemoThing {
  readonly id: string;
  readonly kind: ThingKind;
  readonly label: string;
}
export interface DemoReference {
  readonly id: string;
  readonly instrumentId: string;
  readonly method: ReferenceMethod;
  readonly wavelengthNm: number;
  readonly valueDbm: string;
  readonly setAt: string;
  readonly setBy: string;
  readonly light: LightSource;
}
export interface DemoAttempt {
  readonly id: string;
  readonly methodId: string;
  readonly traineeId: string;
  readonly pieceId: string;
  readonly pieceLabel: string;
  readonly thingIds: readonly string[];
  readonly startedAt: string;
  readonly deviceId: string;
  readonly startedBy: string;
  readonly entries: readonly Entry[];
  readonly sign: {
    readonly by: string;
    readonly at: string;
    readonly reason: string | null;
    readonly asVoid: boolean;
  } | null;
}
export interface DemoData {
  readonly classId: string;
  readonly name: string;
  readonly place: string;
  readonly timeZone: string;
  readonly startsOn: string;
  readonly endsOn: string;
  readonly people: readonly DemoPerson[];
  readonly things: readonly DemoThing[];
  readonly references: readonly DemoReference[];
  readonly attempts: readonly DemoAttempt[];
}

export interface DemoOptions {
  readonly seed: number;
  /** Instant of loading; the course runs up to it. */
  readonly now: Date;
  /** False for the null seed: no trainee, tool or day matters. */
  readonly story: boolean;
  readonly sheet: MethodSheet;
  /** The sheets of its other methods, by the last part of their ids; without them it has pieces by the one alone. */
  readonly others?: ReadonlyMap<string, MethodSheet>;
}

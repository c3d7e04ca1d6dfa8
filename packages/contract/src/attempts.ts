import {
  CAPACITIES,
  type Entry,
  ENTRY_KINDS,
  ENTRY_SOURCES,
  type LossReference,
  LIGHT_SOURCES,
  MAX_FIBERS,
  type MethodSheet,
  type Outcome,
  READING_VOID_REASONS,
  REFERENCE_METHODS,
  VERDICTS,
} from '@clear-mark/core';
import { z } from 'zod';
import { Thing } from './classes.ts';
import { PolicyShape } from './policy.ts';
import { Id, Instant, Label, MOST_WHOLE, Note, oneOf } from './common.ts';
import { AttemptLinkShape } from './links.ts';
import { ValueText, EntryValueShape } from './entry-value.ts';

export const EntryShape = z.object({
  id: Id,
  kind: oneOf(ENTRY_KINDS),
  criterionId: z.string().min(1).max(200).nullable(),
  part: z.string().max(90),
  value: EntryValueShape.nullable(),
  voidReason: oneOf(READING_VOID_REASONS).nullable(),
  note: Note.nullable(),
  authorId: Id,
  capacity: oneOf(CAPACITIES),
  deviceId: Id,
  source: oneOf(ENTRY_SOURCES),
  at: Instant,
  supersedes: z.array(Id).max(50),
  targetId: Id.nullable(),
}) satisfies z.ZodType<Entry>;

export const AttemptEntry = EntryShape.extend({ attemptId: Id });
export type AttemptEntry = z.infer<typeof AttemptEntry>;

export const StoredEntry = EntryShape.extend({
  seq: z.number().int(),
  /** How far the server was ahead of the author's device, ms. */
  clockOffsetMs: z.number().int(),
  /** Who handed it in, where that was not its author; and whether the author has stood by it since. */
  deliveredBy: z.string().optional(),
  confirmed: z.boolean().optional(),
  /** What the device claimed as its time, where that could not be; `at` is the bounded one then. */
  claimedAt: z.string().optional(),
});
export type StoredEntry = z.infer<typeof StoredEntry>;

/** Each entry is parsed on its own, so that a bad one refuses only itself. */
export const EntryBatchBody = z.object({
  entries: z.array(z.unknown()).min(1).max(500),
  /** The device's own clock when it sent the batch; what it is off by is kept with the entries. */
  sentAt: Instant,
});
export type EntryBatchBody = z.infer<typeof EntryBatchBody>;

export const EntryReceipt = z.discriminatedUnion('state', [
  z.object({
    id: z.string(),
    state: z.literal('accepted'),
    seq: z.number().int(),
    /** The time that counts, where the one that was sent could not be. */
    at: z.string().optional(),
  }),
  /** The attempt was signed meanwhile: kept beside it, for an amendment. */
  z.object({ id: z.string(), state: z.literal('unmerged'), code: z.string(), detail: z.string() }),
  z.object({ id: z.string(), state: z.literal('refused'), code: z.string(), detail: z.string() }),
  /** The server could not just now, for reasons of its own: the entry stays on the device and is sent again. */
  z.object({ id: z.string(), state: z.literal('later'), code: z.string(), detail: z.string() }),
]);
export type EntryReceipt = z.infer<typeof EntryReceipt>;
export const EntryBatchReply = z.object({ receipts: z.array(EntryReceipt) });

export const NewAttemptBody = z.object({
  id: Id,
  traineeId: Id,
  methodVersionId: Id,
  pieceId: Id,
  pieceLabel: Label,
  thingIds: z.array(Id).max(20),
  startedAt: Instant,
  deviceId: Id,
  sentAt: Instant,
  /** The link of the class that it is made on; the method's own without one. */
  linkId: Id.nullable().optional(),
});
export type NewAttemptBody = z.infer<typeof NewAttemptBody>;

export const ReferenceShape = z.object({
  id: Id,
  method: oneOf(REFERENCE_METHODS),
  wavelengthNm: z.number().int().min(600).max(1700),
  valueDbm: ValueText,
  setAt: Instant,
  showsNegative: z.boolean(),
  rereadDbm: ValueText.nullable(),
  voidReason: oneOf(READING_VOID_REASONS).nullable(),
  leg: z.number().int().min(1).max(MAX_FIBERS).nullable().optional(),
  light: oneOf(LIGHT_SOURCES).nullable().optional(),
}) satisfies z.ZodType<LossReference>;

/** A change of a reference after it was set. */
export const ReferenceChange = z.object({
  change: z.enum(['reread', 'void']),
  valueDbm: z.string().nullable(),
  voidReason: oneOf(READING_VOID_REASONS).nullable(),
  note: z.string(),
  by: z.string(),
  at: z.string(),
});

export const ClassReference = ReferenceShape.extend({
  instrumentId: Id,
  instrumentLabel: z.string(),
  setBy: z.string().optional(),
  changes: z.array(ReferenceChange).optional(),
});
export type ClassReference = z.infer<typeof ClassReference>;

export const NewReferenceBody = ReferenceShape.omit({ rereadDbm: true, voidReason: true }).extend({
  instrumentId: Id,
  /** The device's own clock when it sent it; what it is off by is taken off `setAt`. */
  sentAt: Instant.optional(),
});
const ChangeNote = z.string().trim().max(300);
/** A change is a row of its own with its author, time and reason; `id` makes sending it again harmless. */
export const ReferenceChangeBody = z.discriminatedUnion('change', [
  z.object({
    change: z.literal('reread'),
    id: Id.optional(),
    valueDbm: ValueText,
    note: ChangeNote.optional(),
  }),
  z.object({
    change: z.literal('void'),
    id: Id.optional(),
    reason: oneOf(READING_VOID_REASONS),
    note: ChangeNote.optional(),
  }),
]);

export const REVISION_KINDS = ['signed', 'signed_incomplete', 'void', 'amended'] as const;

export const Revision = z.object({
  revision: z.number().int(),
  kind: oneOf(REVISION_KINDS),
  signedAt: z.string(),
  signedBy: z.string(),
  reason: z.string().nullable(),
  hash: z.string(),
  previousHash: z.string().nullable(),
  /** The number of the last entry that it was scored from; null in records of the first form. */
  lastSeq: z.number().int().nullable(),
  outcome: z.custom<Outcome>((x) => typeof x === 'object' && x !== null),
});
export type Revision = z.infer<typeof Revision>;

/** An entry that came after the attempt was signed, as it was sent. */
export const LateEntry = AttemptEntry.extend({ authorName: z.string(), receivedAt: z.string() });
export type LateEntry = z.infer<typeof LateEntry>;

/** What is entered in an amendment: the server knows by whom, when, and what it supersedes. */
export const AmendedEntry = AttemptEntry.pick({
  id: true,
  criterionId: true,
  part: true,
  value: true,
  note: true,
}).extend({ kind: z.enum(['value', 'not_seen', 'retract']), targetId: Id.nullable() });
export type AmendedEntry = z.infer<typeof AmendedEntry>;

/** A new signed revision: which late entries are taken, what is entered anew, and why. */
export const AmendBody = z.object({
  /** The newest revision that was seen. */
  fromRevision: z.number().int().min(1).max(MOST_WHOLE),
  /** Every late entry that was offered, taken or left out. */
  late: z.array(z.object({ id: Id, take: z.boolean() })).max(500),
  entries: z.array(AmendedEntry).max(500),
  reason: Note,
  asVoid: z.boolean(),
});
export type AmendBody = z.infer<typeof AmendBody>;

/** What a signature says was seen, as one text for SHA-256: the ids in order of their letters, whatever came first. */
export const seenText = (entryIds: readonly string[]): string => [...entryIds].sort().join('\n');

export const SignBody = z.object({
  /** Sequence number of the last entry that was seen, 0 for none, and SHA-256 of `seenText` of the ids up to it. */
  upTo: z.number().int().min(0).max(MOST_WHOLE),
  digest: z.string().regex(/^[0-9a-f]{64}$/),
  /** Needed for a void or an incomplete attempt. */
  reason: Note.nullable(),
  asVoid: z.boolean(),
});

export const ATTEMPT_STATES = ['open', 'signed', 'withdrawn'] as const;

export const AttemptHead = z.object({
  id: Id,
  classId: Id,
  traineeId: Id,
  traineeName: z.string(),
  methodVersionId: Id,
  pieceId: Id,
  pieceLabel: z.string(),
  startedAt: z.string(),
  state: z.enum(ATTEMPT_STATES),
  /** What a device claimed as the start, where that could not be. */
  claimedStartedAt: z.string().nullable(),
  things: z.array(Thing),
});
export type AttemptHead = z.infer<typeof AttemptHead>;

export const NOTICE_CAUSES = ['face_graded', 'reference_reread', 'reference_void', 'entry_late'] as const;
/** What a signed revision rests on was changed afterwards: by whom, when. */
export const AmendmentNotice = z.object({
  id: Id,
  revision: z.number().int(),
  cause: oneOf(NOTICE_CAUSES),
  by: z.string(),
  at: z.string(),
});
export type AmendmentNotice = z.infer<typeof AmendmentNotice>;

export const AttemptDocument = z.object({
  attempt: AttemptHead,
  sheet: z.custom<MethodSheet>((x) => typeof x === 'object' && x !== null),
  policy: PolicyShape,
  timeZone: z.string(),
  entries: z.array(StoredEntry),
  references: z.array(ClassReference),
  revisions: z.array(Revision),
  /** What came after it was signed, and was not yet looked at in an amendment. */
  late: z.array(LateEntry),
  notices: z.array(AmendmentNotice),
});
export type AttemptDocument = z.infer<typeof AttemptDocument>;

/** An attempt at work, as a device keeps it: with it and the method's sheet the device scores by itself. */
export const OpenAttempt = z.object({
  id: Id,
  traineeId: Id,
  traineeName: z.string(),
  methodVersionId: Id,
  pieceId: Id,
  pieceLabel: z.string(),
  startedAt: z.string(),
  claimedStartedAt: z.string().nullable().optional(),
  schools: z.record(z.string(), z.string()),
  link: AttemptLinkShape.nullable(),
  things: z.array(Thing),
  entries: z.array(StoredEntry),
});
export type OpenAttempt = z.infer<typeof OpenAttempt>;

export const TodayTile = z.object({
  traineeId: Id,
  traineeName: z.string(),
  benchLabel: z.string().nullable(),
  lastThingIds: z.array(Id),
  lastVersionId: Id.nullable(),
  lastSignedAt: z.string().nullable(),
  today: z.array(z.object({ attemptId: Id, pieceLabel: z.string(), verdict: oneOf(VERDICTS) })),
  pieces: z.number().int(),
});
export type TodayTile = z.infer<typeof TodayTile>;

/** What a trainee needs at the own bench: the classes at work, what can be started and with what, what is open. */
export const OwnBench = z.object({
  classId: Id,
  className: z.string(),
  methods: z.array(z.object({ versionId: Id, title: z.string() })),
  things: z.array(Thing),
  lastVersionId: Id.nullable(),
  lastThingIds: z.array(Id),
  pieces: z.number().int(),
  open: z.array(
    z.object({ attemptId: Id, pieceLabel: z.string(), title: z.string(), startedAt: z.string() }),
  ),
});
export type OwnBench = z.infer<typeof OwnBench>;

/** The last sequence number that a device knows of each open attempt; `afresh` asks for the tiles in any case. */
/** Entries as a stream carries them: a device that has all before them needs to ask for nothing. */
export const EntriesNews = z.object({
  now: z.string(),
  attempts: z.array(z.object({ id: Id, entries: z.array(StoredEntry) })),
});
export type EntriesNews = z.infer<typeof EntriesNews>;

export const ConfirmBody = z.object({ entryIds: z.array(Id).min(1).max(500) });

export const CatchUpBody = z.object({
  known: z.record(Id, z.number().int().min(0)),
  afresh: z.boolean().optional(),
});

export const CatchUp = z.object({
  now: z.string(),
  day: z.string(),
  timeZone: z.string(),
  policy: PolicyShape,
  attempts: z.array(OpenAttempt),
  /** Attempts that the device knew as open and that are not any more. */
  closed: z.array(Id),
  /** Null where nothing began or ended since. */
  tiles: z.array(TodayTile).nullable(),
  references: z.array(ClassReference),
});
export type CatchUp = z.infer<typeof CatchUp>;

export const AttemptChanges = z.object({
  now: z.string(),
  state: z.enum(ATTEMPT_STATES),
  entries: z.array(StoredEntry),
  references: z.array(ClassReference),
});
export type AttemptChanges = z.infer<typeof AttemptChanges>;

import { z } from 'zod';
import {
  AmendBody,
  AttemptDocument,
  AttemptChanges,
  CatchUp,
  CatchUpBody,
  ClassReference,
  ConfirmBody,
  EntryBatchBody,
  EntryBatchReply,
  NewAttemptBody,
  NewReferenceBody,
  OwnBench,
  ReferenceChangeBody,
  Revision,
  SignBody,
} from './attempts.ts';
import {
  AddMemberBody,
  ClassDetail,
  ClassPracticeOption,
  ClassSummary,
  CopyClassBody,
  MethodUseBody,
  NewClassBody,
  NewCordCheckBody,
  NewThingBody,
  NewThingsBody,
  PracticeChoiceBody,
  RosterBody,
  Thing,
  ThingChangeBody,
} from './classes.ts';
import { Id, QueryWhole } from './common.ts';
import { ClaimBody, Instrument, InstrumentClaim, InstrumentOrder, InstrumentSetting } from './instruments.ts';
import { ClassLink, LinkBody, LinkTestOfClass, SpliceRow } from './links.ts';
import { ACCOUNT_ROUTES } from './accounts.ts';
import { AUDIT_ROUTES } from './audit.ts';
import { API_TOKEN_ROUTES } from './api-tokens.ts';
import { BENCH_ROUTES } from './bench-devices.ts';
import { HELD_ROUTES } from './held.ts';
import { RECEIVER_ROUTES } from './receivers.ts';
import { REPORT_BATCH_ROUTES } from './report-batches.ts';
import { CERTIFICATE_ROUTES } from './certificates.ts';
import { FACE_ROUTES } from './face-routes.ts';
import { TRACE_ROUTES } from './trace-routes.ts';
import { INSIGHT_ROUTES } from './insight.ts';
import { PLAN_ROUTES } from './plan.ts';
import { DAY_ROUTES } from './days.ts';
import { MEASURED_ROUTES } from './measured.ts';
import { COURSE_ROUTES } from './course.ts';
import { STOCK_ROUTES } from './stock.ts';
import { WHAT_IF_ROUTES } from './what-if.ts';
import { ATTEMPT_ERRORS, ById, CLASS_ERRORS, route } from './route.ts';
import { Account, DemoSignInBody, Person, SetupBody, SignInBody, StartInfo } from './people.ts';
import {
  AttemptList,
  AttemptListFilter,
  ResultFilter,
  Results,
  Split,
  SplitQuery,
  SuggestionCount,
  LossSeries,
  LossSeriesQuery,
} from './results.ts';
import { POLICY_ERRORS, PolicyShape } from './policy.ts';
import { METHOD_ROUTES } from './methods.ts';
import { SCHOOL_TABLE_ROUTES } from './school-tables.ts';
import { Safekeeping } from './safekeeping.ts';

export const ROUTES = {
  ...ACCOUNT_ROUTES,
  ...AUDIT_ROUTES,
  ...HELD_ROUTES,
  ...BENCH_ROUTES,
  ...RECEIVER_ROUTES,
  ...API_TOKEN_ROUTES,
  ...REPORT_BATCH_ROUTES,
  ...CERTIFICATE_ROUTES,
  ...FACE_ROUTES,
  ...TRACE_ROUTES,
  ...INSIGHT_ROUTES,
  ...METHOD_ROUTES,
  ...PLAN_ROUTES,
  ...DAY_ROUTES,
  ...COURSE_ROUTES,
  ...MEASURED_ROUTES,
  ...STOCK_ROUTES,
  ...SCHOOL_TABLE_ROUTES,
  ...WHAT_IF_ROUTES,
  health: route('get /health', 'open', {
    reply: z.object({ status: z.literal('ok'), database: z.literal('ok') }),
    errors: ['server.unavailable'],
  }),
  /** Whether requests are to be sent here: not while the process ends or the database is away. */
  ready: route('get /ready', 'open', {
    reply: z.object({ status: z.literal('ready') }),
    errors: ['server.unavailable', 'server.stopping'],
  }),
  start: route('get /start', 'open', { reply: StartInfo }),
  signIn: route('post /session', 'open', {
    body: SignInBody,
    reply: Person,
    errors: ['auth.bad_credentials', 'auth.throttled', 'auth.second_factor_needed', 'auth.bad_second_factor'],
  }),
  demoSignIn: route('post /session/demo', 'open', {
    body: DemoSignInBody,
    reply: Person,
    errors: ['auth.demo_only'],
  }),
  signOut: route('delete /session', 'signed_in', {}),
  setup: route('post /setup', 'open', {
    body: SetupBody,
    reply: Person,
    errors: ['auth.bad_setup_code', 'auth.setup_done', 'auth.weak_password', 'auth.throttled'],
  }),
  people: route('get /people', 'instructor', { reply: z.array(Account) }),

  classes: route('get /classes', 'signed_in', { reply: z.array(ClassSummary) }),
  addClass: route('post /classes', 'instructor', {
    body: NewClassBody,
    reply: ClassSummary,
    errors: ['class.bad_time_zone', 'class.dates_crossed'],
  }),
  classDetail: route('get /classes/:id', 'instructor', {
    params: ById,
    reply: ClassDetail,
    errors: CLASS_ERRORS,
  }),
  addMember: route('post /classes/:id/members', 'instructor', {
    params: ById,
    body: AddMemberBody,
    reply: Person,
    errors: [...CLASS_ERRORS, 'not_found.person', 'class.already_member', 'class.wrong_role'],
  }),
  /** All of a roster or nothing. */
  addRoster: route('post /classes/:id/roster', 'instructor', {
    params: ById,
    body: RosterBody,
    reply: z.object({ added: z.number().int() }),
    errors: [...CLASS_ERRORS, 'not_found.person', 'class.already_member', 'class.wrong_role'],
  }),
  /** A new class with the place and the zone of an earlier one, and what else is taken from it. */
  copyClass: route('post /classes/:id/copies', 'instructor', {
    params: ById,
    body: CopyClassBody,
    reply: ClassSummary,
    errors: [...CLASS_ERRORS, 'class.dates_crossed', 'request.already_there'],
  }),
  /** The person is in the class no longer; what was scored stays. */
  leaveClass: route('delete /classes/:id/members/:personId', 'instructor', {
    params: ById.extend({ personId: Id }),
    errors: [...CLASS_ERRORS, 'not_found.person', 'class.open_attempts', 'class.last_instructor'],
  }),
  addThing: route('post /classes/:id/things', 'instructor', {
    params: ById,
    body: NewThingBody,
    reply: Thing,
    errors: [...CLASS_ERRORS, 'thing.label_taken'],
  }),
  /** A list of equipment, taken whole or not at all. */
  addThings: route('post /classes/:id/equipment', 'instructor', {
    params: ById,
    body: NewThingsBody,
    reply: z.object({ added: z.number().int() }),
    errors: [...CLASS_ERRORS, 'thing.label_taken', 'request.already_there'],
  }),
  changeThing: route('put /classes/:id/things/:thingId', 'instructor', {
    params: ById.extend({ thingId: Id }),
    body: ThingChangeBody,
    reply: Thing,
    errors: [...CLASS_ERRORS, 'not_found.thing'],
  }),
  addCordCheck: route('post /classes/:id/things/:thingId/checks', 'instructor', {
    params: ById.extend({ thingId: Id }),
    body: NewCordCheckBody,
    reply: Thing,
    errors: [...CLASS_ERRORS, 'not_found.thing', 'cord.wrong_thing', 'cord.days_crossed', 'cord.bad_loss'],
  }),
  useMethod: route('put /classes/:id/methods', 'instructor', {
    params: ById,
    body: MethodUseBody,
    errors: [...CLASS_ERRORS, 'not_found.method_version'],
  }),
  setPolicy: route('put /classes/:id/policy', 'instructor', {
    params: ById,
    body: PolicyShape,
    errors: [...CLASS_ERRORS, ...POLICY_ERRORS],
  }),
  classPracticeOptions: route('get /classes/:id/practice-options', 'instructor', {
    params: ById,
    reply: z.array(ClassPracticeOption),
    errors: CLASS_ERRORS,
  }),
  choosePractice: route('put /classes/:id/practice-options', 'instructor', {
    params: ById,
    body: PracticeChoiceBody,
    reply: z.array(ClassPracticeOption),
    errors: [...CLASS_ERRORS, 'practice.unknown'],
  }),
  catchUp: route('post /classes/:id/catch-up', 'instructor', {
    params: ById,
    body: CatchUpBody,
    reply: CatchUp,
    errors: CLASS_ERRORS,
  }),
  startAttempt: route('post /classes/:id/attempts', 'signed_in', {
    params: ById,
    body: NewAttemptBody,
    reply: z.object({ attemptId: Id }),
    errors: [
      ...CLASS_ERRORS,
      'attempt.trainee_not_in_class',
      'attempt.method_not_in_use',
      'attempt.thing_not_in_class',
      'attempt.link_not_in_class',
      'loss.bad_link',
      'attempt.other_content',
    ],
  }),
  attempt: route('get /attempts/:id', 'signed_in', {
    params: ById,
    reply: AttemptDocument,
    errors: ATTEMPT_ERRORS,
  }),
  attemptChanges: route('get /attempts/:id/changes', 'signed_in', {
    params: ById,
    query: z.object({ after: QueryWhole }),
    reply: AttemptChanges,
    errors: ATTEMPT_ERRORS,
  }),
  /** Each entry is looked through and refused on its own. */
  sendEntries: route('post /entries', 'signed_in', {
    body: EntryBatchBody,
    reply: EntryBatchReply,
    itemsOneByOne: true,
  }),
  /** The author stands by entries that another person handed in. */
  confirmEntries: route('post /attempts/:id/confirmations', 'signed_in', {
    params: ById,
    body: ConfirmBody,
    errors: [...ATTEMPT_ERRORS, 'entry.confirm_own'],
  }),
  /** An open attempt that nothing was entered for: kept as withdrawn, counted nowhere. */
  withdrawAttempt: route('post /attempts/:id/withdrawal', 'signed_in', {
    params: ById,
    errors: [...ATTEMPT_ERRORS, 'attempt.signed', 'attempt.not_empty'],
  }),
  sign: route('post /attempts/:id/sign', 'instructor', {
    params: ById,
    body: SignBody,
    reply: Revision,
    errors: [
      ...ATTEMPT_ERRORS,
      'attempt.signed',
      'attempt.withdrawn',
      'sign.entries_differ',
      'sign.conflict',
      'sign.reason_needed',
    ],
  }),
  /** What was signed stays; a further revision says what is right, and counts from then on. */
  amend: route('post /attempts/:id/amendment', 'instructor', {
    params: ById,
    body: AmendBody,
    reply: Revision,
    errors: [
      ...ATTEMPT_ERRORS,
      'attempt.not_signed',
      'amend.moved',
      'amend.nothing',
      'entry.reference_missing',
      'entry.unknown_target',
      'sign.conflict',
    ],
  }),
  addReference: route('post /classes/:id/references', 'instructor', {
    params: ById,
    body: NewReferenceBody,
    reply: ClassReference,
    errors: [...CLASS_ERRORS, 'reference.not_instrument', 'value.not_a_number'],
  }),
  changeReference: route('put /classes/:id/references/:referenceId', 'instructor', {
    params: ById.extend({ referenceId: Id }),
    body: ReferenceChangeBody,
    reply: ClassReference,
    errors: [...CLASS_ERRORS, 'not_found.reference', 'value.not_a_number'],
  }),

  results: route('get /classes/:id/results', 'instructor', {
    params: ById,
    query: ResultFilter,
    reply: Results,
    errors: CLASS_ERRORS,
  }),
  split: route('get /classes/:id/results/split', 'instructor', {
    params: ById,
    query: SplitQuery,
    reply: Split,
    errors: CLASS_ERRORS,
  }),
  lossSeries: route('get /classes/:id/results/loss-series', 'instructor', {
    params: ById,
    query: LossSeriesQuery,
    reply: LossSeries,
    errors: CLASS_ERRORS,
  }),
  attemptList: route('get /classes/:id/attempts', 'instructor', {
    params: ById,
    query: AttemptListFilter,
    reply: AttemptList,
    errors: CLASS_ERRORS,
  }),
  suggestions: route('get /classes/:id/suggestions', 'instructor', {
    params: ById,
    reply: z.array(SuggestionCount),
    errors: CLASS_ERRORS,
  }),
  saveLink: route('put /classes/:id/links/:linkId', 'instructor', {
    params: ById.extend({ linkId: Id }),
    body: LinkBody,
    reply: ClassLink,
    errors: [...CLASS_ERRORS, 'link.label_taken', 'link.other_class'],
  }),
  linkTests: route('get /classes/:id/links/:linkId/tests', 'instructor', {
    params: ById.extend({ linkId: Id }),
    reply: z.array(LinkTestOfClass),
    errors: CLASS_ERRORS,
  }),
  splices: route('get /classes/:id/splices', 'instructor', {
    params: ById,
    reply: z.array(SpliceRow),
    errors: CLASS_ERRORS,
  }),
  instruments: route('get /classes/:id/instruments', 'signed_in', {
    params: ById,
    reply: z.array(Instrument),
    errors: CLASS_ERRORS,
  }),
  /** The server goes to this address: the lead sets it, within the networks that the server was started with. */
  setInstrument: route('put /classes/:id/instruments/:thingId', 'lead', {
    params: ById.extend({ thingId: Id }),
    body: InstrumentSetting,
    reply: Instrument,
    errors: [
      ...CLASS_ERRORS,
      'not_found.thing',
      'instrument.wrong_thing',
      'instrument.days_crossed',
      'instrument.address_refused',
    ],
  }),
  dropInstrument: route('delete /classes/:id/instruments/:thingId', 'lead', {
    params: ById.extend({ thingId: Id }),
    errors: CLASS_ERRORS,
  }),
  /** Two sheets never take readings of one instrument at once: the second is told who has it. */
  claimInstrument: route('post /classes/:id/instruments/:thingId/claim', 'signed_in', {
    params: ById.extend({ thingId: Id }),
    body: ClaimBody,
    reply: InstrumentClaim,
    errors: [...CLASS_ERRORS, 'not_found.instrument', 'not_found.attempt', 'instrument.in_use'],
  }),
  releaseInstrument: route('delete /classes/:id/instruments/:thingId/claim/:deviceId', 'signed_in', {
    params: ById.extend({ thingId: Id, deviceId: Id }),
    errors: [...CLASS_ERRORS, 'instrument.in_use'],
  }),
  orderInstrument: route('post /classes/:id/instruments/:thingId/orders', 'signed_in', {
    params: ById.extend({ thingId: Id }),
    body: InstrumentOrder,
    errors: [...CLASS_ERRORS, 'not_found.instrument', 'instrument.no_answer', 'instrument.not_claimed'],
  }),
  /** The simulated bench behind the demo's instruments. */
  standInPiece: route('get /stand-ins', 'instructor', {
    reply: z.unknown(),
    errors: ['auth.demo_only', 'instrument.no_answer'],
  }),
  standInAct: route('post /stand-ins', 'instructor', {
    body: z.record(z.string(), z.unknown()),
    reply: z.unknown(),
    errors: ['auth.demo_only', 'instrument.no_answer', 'instrument.refused'],
  }),
  /** Backups, checks of the records, heads of the chains. */
  safekeeping: route('get /safekeeping', 'lead', { reply: Safekeeping }),
  checkRecords: route('post /safekeeping/checks', 'lead', { reply: Safekeeping }),
  ownBench: route('get /me/bench', 'signed_in', { reply: z.array(OwnBench) }),
  ownRecord: route('get /me/attempts', 'signed_in', { reply: AttemptList }),
} as const;

/** Streams of server-sent events: that something changed, not what. */
export const EVENT_PATHS = {
  class: '/api/classes/:id/events',
  attempt: '/api/attempts/:id/events',
  instruments: '/api/classes/:id/instrument-events',
} as const;

import type { Role } from './common.ts';
import type { ROUTES } from './routes.ts';

/** How far something may be done: everywhere, in the classes that the person is in, for the person alone, or not. */
export type Reach = 'all' | 'own_classes' | 'own' | 'no';

export interface Right {
  readonly id: string;
  /** What is done, in plain words. */
  readonly act: string;
  readonly reach: Readonly<Record<Role, Reach>>;
  readonly routes: readonly (keyof typeof ROUTES)[];
}

const LEADS = { lead: 'all', instructor: 'no', trainee: 'no' } as const;
const TEACHING = { lead: 'all', instructor: 'own_classes', trainee: 'no' } as const;
const READING = { lead: 'all', instructor: 'all', trainee: 'no' } as const;
const THEMSELVES = { lead: 'own', instructor: 'own', trainee: 'own' } as const;
const TAKING_PART = { lead: 'all', instructor: 'own_classes', trainee: 'own' } as const;

/**
 * Who may do what: the one table of it. Each closed route stands in exactly one line; a test holds the access of the route to
 * the line, and the page and the document are made from it. That a person is in a class is decided by the service.
 */
export const RIGHTS: readonly Right[] = [
  {
    id: 'own-account',
    act: 'Sign out; change the own password, PIN, second factor and sessions; take out all that is held about oneself',
    reach: THEMSELVES,
    routes: [
      'signOut',
      'ownAccount',
      'changeOwnPassword',
      'endOwnSessions',
      'beginSecondFactor',
      'confirmSecondFactor',
      'dropOwnSecondFactor',
      'setPin',
      'dropOwnPin',
    ],
  },
  {
    id: 'own-tokens',
    act: 'Make and end the own tokens for scripts',
    reach: { lead: 'own', instructor: 'own', trainee: 'no' },
    routes: ['apiTokens', 'addApiToken', 'endApiToken'],
  },
  {
    id: 'own-record',
    act: 'Read the own record, the own bench and the own skills',
    reach: THEMSELVES,
    routes: [
      'ownBench',
      'ownRecord',
      'ownSkills',
      'ownDays',
      'ownCertificates',
      'ownSeries',
      'startRun',
      'answerCall',
      'finishRun',
      'ownTraceSeries',
      'startTraceRun',
      'answerTrace',
      'finishTraceRun',
    ],
  },
  {
    id: 'score',
    act: 'Begin a piece and score on its sheet, with the instruments of the class',
    reach: TAKING_PART,
    routes: [
      'classes',
      'methodVersion',
      'startAttempt',
      'attempt',
      'attemptChanges',
      'sendEntries',
      'confirmEntries',
      'withdrawAttempt',
      'instruments',
      'claimInstrument',
      'releaseInstrument',
      'orderInstrument',
    ],
  },
  {
    id: 'sign',
    act: 'Sign a piece, amend what was signed',
    reach: TEACHING,
    routes: ['sign', 'amend'],
  },
  {
    id: 'sign-off',
    act: 'Sign a trainee off in a skill; issue and withdraw certificates',
    reach: LEADS,
    routes: ['signOff', 'issueCertificate', 'withdrawCertificate'],
  },
  {
    id: 'references',
    act: 'Set and void references; check test cords',
    reach: TEACHING,
    routes: ['addReference', 'changeReference', 'addCordCheck'],
  },
  {
    id: 'faces',
    act: 'Grade end faces; measure in pictures; set blind calls; keep the zones of a class',
    reach: TEACHING,
    routes: [
      'faces',
      'face',
      'addFace',
      'gradeFace',
      'faceTables',
      'saveFaceTable',
      'callSeries',
      'addSeries',
      'measuredPictures',
      'addMeasuredPicture',
    ],
  },
  {
    id: 'traces',
    act: 'Keep, read and take traces of an OTDR; set series of them that are read blind',
    reach: TEACHING,
    routes: ['traces', 'describeTrace', 'readTrace', 'acquireTrace', 'traceSeries', 'addTraceSeries'],
  },
  {
    id: 'results',
    act: 'Read the results, records and links of a class; take them out as a file',
    reach: TEACHING,
    routes: [
      'classDetail',
      'catchUp',
      'results',
      'split',
      'lossSeries',
      'skillsInTime',
      'failingTogether',
      'differences',
      'skillEvidence',
      'attemptList',
      'suggestions',
      'linkTests',
      'splices',
      'certificates',
      'replay',
      'startWhatIf',
      'whatIf',
      'cancelWhatIf',
      'startReportBatch',
      'reportBatch',
      'newestReportBatch',
      'cancelReportBatch',
    ],
  },
  {
    id: 'instructors-compared',
    act: 'See how instructors agree',
    reach: LEADS,
    routes: ['instructorsView'],
  },
  {
    id: 'plan',
    act: 'Plan retraining',
    reach: TEACHING,
    routes: ['plan', 'changePlanItem', 'savePlanSession', 'dropPlanSession'],
  },
  {
    id: 'days',
    act: 'Plan the days of a class; load and empty the ovens; keep equipment, stock and the plan of the course',
    reach: TEACHING,
    routes: [
      'day',
      'dayMethods',
      'saveDay',
      'startLoad',
      'takeLoadOut',
      'stock',
      'setThing',
      'addThingEvent',
      'course',
      'setCourseMethod',
      'addStockItem',
    ],
  },
  {
    id: 'class',
    act: 'Set a class up: people, groups, equipment, methods in use, questions of practice, policy, links, bench devices',
    reach: TEACHING,
    routes: [
      'addMember',
      'addRoster',
      'copyClass',
      'leaveClass',
      'setGroup',
      'addThing',
      'addThings',
      'changeThing',
      'useMethod',
      'setPolicy',
      'classPracticeOptions',
      'choosePractice',
      'saveLink',
      'benchDevices',
      'addBenchDevice',
      'endBenchDevice',
    ],
  },
  {
    id: 'new-class',
    act: 'Make a class; see who is in the school and which tables and own names there are',
    reach: READING,
    routes: ['addClass', 'people', 'ownNames', 'versionsBeside', 'schoolTables', 'schoolTableVersions'],
  },
  {
    id: 'archives',
    act: 'Take a whole class out as an archive; take one in from elsewhere',
    reach: LEADS,
    routes: [],
  },
  {
    id: 'stand-ins',
    act: 'Handle the simulated bench (demo only)',
    reach: READING,
    routes: ['standInPiece', 'standInAct'],
  },
  {
    id: 'methods',
    act: 'Write, publish and retire methods and tables of the school; method packs',
    reach: LEADS,
    routes: [
      'methodsOfSchool',
      'makePack',
      'previewPack',
      'importPack',
      'setMethodState',
      'methodDrafts',
      'addDraft',
      'methodDraft',
      'saveDraft',
      'discardDraft',
      'publishDraft',
      'saveSchoolTable',
    ],
  },
  {
    id: 'instruments',
    act: 'Say where an instrument is on the network',
    reach: LEADS,
    routes: ['setInstrument', 'dropInstrument'],
  },
  {
    id: 'accounts',
    act: 'Make, invite, change and close accounts; ask leads for a second factor; read the trail of all that',
    reach: LEADS,
    routes: [
      'accounts',
      'inviteAccount',
      'giveCode',
      'mailCode',
      'withdrawCode',
      'changeAccount',
      'disableAccount',
      'endSessionsOf',
      'dropSecondFactorOf',
      'dropPinOf',
      'requireSecondFactor',
      'secondFactorRequired',
      'audit',
    ],
  },
  {
    id: 'erasure',
    act: 'Erase a person; take out all that is held about anybody',
    reach: LEADS,
    routes: ['erasureOutlook', 'erasePerson'],
  },
  {
    id: 'receivers',
    act: 'Say which other programs are told what happens',
    reach: LEADS,
    routes: [
      'receivers',
      'addReceiver',
      'pauseReceiver',
      'dropReceiver',
      'deliveries',
      'tryReceiver',
      'sendAgain',
    ],
  },
  {
    id: 'safekeeping',
    act: 'See backups and check the records',
    reach: LEADS,
    routes: ['safekeeping', 'checkRecords'],
  },
];

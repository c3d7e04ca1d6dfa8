import { auditWords, CERTIFICATE_STATE_WORDS, skillWords, VERDICT_WORDS } from '@clear-mark/words';
import { type Report, reportPage } from '@clear-mark/paper';
import type { Held, HeldMeasured, HeldPicture } from './held.store.ts';

/** What is held, with the place of each picture beside the page. */
type HeldWithFiles = Omit<Held, 'pictures' | 'measured'> & {
  readonly pictures: readonly (HeldPicture & { readonly file: string })[];
  readonly measured: readonly (HeldMeasured & { readonly file: string })[];
};

interface Part {
  readonly heading: string;
  readonly heads: readonly string[];
  readonly rows: readonly (readonly string[])[];
}

/** What is held about a person, as a report. */
function heldReport(held: HeldWithFiles, now: Date): Report {
  const { account, others } = held;
  return {
    title: `All that is held about ${account.name}`,
    facts: [
      `Taken out ${day(now.toISOString())}. Times are UTC. The file person.json beside this page says the same for programs.`,
      `Role ${account.role}; signs in as ${account.login}; account made ${day(account.createdAt)}; last signed in ${
        account.lastSignIn === null ? 'never' : day(account.lastSignIn)
      }; second factor ${account.secondFactor ? 'yes' : 'no'}; signed in at ${account.sessions} places now.`,
      `In the records of others: ${others.entries} entries, ${others.signed} signatures, ${others.graded} gradings of pictures.`,
    ],
    sections: partsOf(held)
      .filter((part) => part.rows.length > 0)
      .map(({ heading, heads, rows }) => ({
        heading,
        blocks: [{ kind: 'table', heads, numbers: [], weights: heads.map(() => 1), rows }],
      })),
  };
}
export const heldPage = (held: HeldWithFiles, now: Date): string =>
  reportPage(heldReport(held, now), [
    ...held.pictures.map((p) => ({ file: p.file, words: `${p.label}, ${day(p.takenAt)}` })),
    ...held.measured.map((m) => ({
      file: m.file,
      words: `${m.pieceLabel}, ${m.criterion}, ${m.value}, ${day(m.takenAt)}`,
    })),
  ]);

/** Pictures and traces: what was called and read blind, and what lies with the pieces. */
function seriesPartsOf({ calls, measured, tracesRead, traces }: HeldWithFiles): Part[] {
  return [
    {
      heading: 'Pictures that were measured',
      heads: ['Piece', 'What', 'Value', 'Taken', 'By'],
      rows: measured.map((m) => [
        m.pieceLabel,
        m.criterion,
        `${m.value} ± ${m.expanded}`,
        moment(m.takenAt),
        m.takenBy,
      ]),
    },
    {
      heading: 'Pictures called blind',
      heads: ['Series', 'Class', 'Begun', 'Answers'],
      rows: calls.map((c) => [c.series, c.className, day(c.startedAt), String(c.answers.length)]),
    },
    {
      heading: 'Traces read blind',
      heads: ['Series', 'Class', 'Begun', 'Answers'],
      rows: tracesRead.map((r) => [r.series, r.className, day(r.startedAt), String(r.answers.length)]),
    },
    {
      heading: 'Traces kept with the pieces',
      heads: ['Trace', 'Piece', 'Taken', 'By'],
      rows: traces.map((t) => [t.label, t.pieceLabel, moment(t.takenAt), t.takenBy]),
    },
  ];
}

function partsOf(held: HeldWithFiles): Part[] {
  const { classes, pieces, signOffs, certificates, plan, days, trail } = held;
  const notes = pieces.flatMap((p) =>
    p.entries.flatMap((e) => (e.note === null ? [] : [[p.className, p.label, e.note]])),
  );
  return [
    {
      heading: 'Classes',
      heads: ['Class', 'Place', 'Role', 'Group', 'From', 'Left'],
      rows: classes.map((c) => [
        c.className,
        c.place,
        c.role,
        c.group,
        day(c.joinedAt),
        c.leftAt === null ? '' : day(c.leftAt),
      ]),
    },
    {
      heading: 'Pieces',
      heads: ['Class', 'Piece', 'Method', 'Begun', 'Entries', 'Records'],
      rows: pieces.map((p) => [
        p.className,
        p.label,
        `${p.method}, version ${p.methodVersion}`,
        day(p.startedAt),
        String(p.entries.length),
        p.records
          .map((r) =>
            [VERDICT_WORDS[r.verdict], `signed by ${r.signedBy}`, day(r.signedAt), r.reason ?? '']
              .filter((t) => t !== '')
              .join(', '),
          )
          .join('; ') || p.state,
      ]),
    },
    { heading: 'Notes', heads: ['Class', 'Piece', 'Note'], rows: notes },
    {
      heading: 'Sign-offs',
      heads: ['Skill', 'Class', 'Until', 'By', 'Note'],
      rows: signOffs.map((s) => [skillWords(s.skill), s.className, s.lapsesOn, s.by, s.note]),
    },
    {
      heading: 'Certificates',
      heads: ['Code', 'Class', 'Until', 'State'],
      rows: certificates.map((c) => [c.code, c.className, c.validUntil, CERTIFICATE_STATE_WORDS[c.state]]),
    },
    {
      heading: 'Days planned',
      heads: ['Class', 'Day', 'Pieces'],
      rows: days.map((d) => [d.className, d.day, String(d.pieces)]),
    },
    {
      heading: 'Retraining planned',
      heads: ['Skill', 'Class', 'From', 'Closed'],
      rows: plan.map((p) => [
        skillWords(p.skill),
        p.className,
        day(p.openedAt),
        p.closedAt === null ? '' : day(p.closedAt),
      ]),
    },
    ...seriesPartsOf(held),
    {
      heading: 'What was done by and to this person',
      heads: ['When', 'Who', 'What', 'To whom', 'Detail'],
      rows: trail.map((t) => [
        moment(t.at),
        t.by ?? 'nobody signed in',
        auditWords(t.kind),
        t.person ?? '',
        t.detail,
      ]),
    },
  ];
}

const iso = (at: string): string => new Date(at).toISOString();
const day = (at: string): string => iso(at).slice(0, 10);
const moment = (at: string): string => iso(at).slice(0, 16).replace('T', ' ');

import type { Certificate } from '@clear-mark/contract';
import { skillWords } from '@clear-mark/words';
import type { Report } from '../report.ts';

/** A certificate as a report: what was shown, by which method versions, until when, and where that can be checked. */
export function certificateReport(
  certificate: Certificate,
  of: { readonly issuedOn: string; readonly dayOf: (day: string) => string; readonly address: string },
): Report {
  const { traineeName, className, place, skills, issuedBy, validUntil, code } = certificate;
  return {
    title: `Certificate of ${traineeName}`,
    facts: [
      [className, place].filter((t) => t !== '').join(', '),
      `Issued by ${issuedBy} on ${of.issuedOn}. It holds until ${of.dayOf(validUntil)}.`,
    ],
    code: { text: code, address: of.address },
    sections: [
      {
        heading: `${traineeName} has shown competence in`,
        blocks: [
          {
            kind: 'table',
            heads: ['Skill', 'Rule of the school', 'Shown by', 'Methods', 'Until'],
            numbers: [],
            weights: [2.2, 3, 4, 5, 2],
            rows: skills.map((s) => [
              skillWords(s.skill),
              s.rule,
              s.evidence,
              s.methods.map((m) => `${m.title}, version ${m.version}`).join('; '),
              of.dayOf(s.lapsesOn),
            ]),
          },
        ],
      },
      {
        heading: 'Whether it holds',
        blocks: [
          {
            kind: 'text',
            text: `Open ${of.address} or type the code ${code} there. The page says whether it holds, was amended, has lapsed or was withdrawn, and nothing else.`,
          },
          {
            kind: 'text',
            soft: true,
            text: 'It says what was shown in training. What may be done where is for local codes and whoever licenses the work to say.',
          },
        ],
      },
    ],
  };
}

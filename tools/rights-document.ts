import { RIGHTS, ROLES } from '@clear-mark/contract';
import { REACH_WORDS } from '@clear-mark/words';

/** `docs/rights.md`, from the one table of who may do what. */
export function rightsDocument(): string {
  const rows = [
    ['What', ...ROLES],
    ...RIGHTS.map(({ act, reach }) => [act, ...ROLES.map((role) => REACH_WORDS[reach[role]])]),
  ];
  const widths = rows[0]!.map((_, i) => Math.max(...rows.map((row) => row[i]!.length)));
  const line = (row: readonly string[]): string =>
    `| ${row.map((cell, i) => cell.padEnd(widths[i]!)).join(' | ')} |`;
  const rule = `| ${widths.map((w) => '-'.repeat(w)).join(' | ')} |`;
  return `# Who may do what

Made from \`packages/contract/src/rights.ts\` by \`npm run methods-document\`; a test holds each route of the server to it. Nobody
who is not signed in may do anything but sign in, use a code that was given out, and open the page of a certificate.

${[line(rows[0]!), rule, ...rows.slice(1).map(line)].join('\n')}
`;
}

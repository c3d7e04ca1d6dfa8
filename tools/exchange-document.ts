import { CSV_PATHS, CSV_TABLE_NAMES, CSV_TABLES } from '@clear-mark/contract';

/** The columns of the tables that are taken out, for `docs/csv.md`. */
export function csvDocument(): string {
  const tables = CSV_TABLE_NAMES.map((name) => {
    const { line, columns } = CSV_TABLES[name];
    return `## ${name}

\`GET ${CSV_PATHS[name]}\`; a line: ${line}.

${columns.map(([column, about]) => `- \`${column}\`: ${about}`).join('\n')}
`;
  });
  return `# Tables as CSV

Made from \`packages/contract/src/csv-tables.ts\` by \`npm run methods-document\`; a test holds the files to it. Records, _Take
out_, or by address: \`?decimal=comma\` writes numbers with a comma and puts semicolons between columns, and the filters of the
records hold here too. RFC 4180, UTF-8, lines end with CR LF; a text that a spreadsheet would run has an apostrophe in front.

${tables.join('\n')}`;
}

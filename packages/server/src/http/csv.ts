import type { DecimalMark } from '@clear-mark/contract';
import { stringify } from 'csv-stringify';
import type { Response } from 'express';

/** A spreadsheet runs text that starts like a formula: such text gets an apostrophe in front. */
export const plainText = (text: string): string => (/^[=+\-@\t\r]/.test(text) ? `'${text}` : text);

/** A number that was typed keeps its digits; only its decimal mark follows the file. */
export const typedNumber = (text: string, decimal: DecimalMark): string =>
  /^[+-]?\d+([.,]\d+)?$/.test(text) ? text.replace(/[.,]/, decimal === 'comma' ? ',' : '.') : plainText(text);

/** Where lines go: the head of the answer is sent with the first, so that a refusal before it is an answer of its own. */
export interface Lines {
  readonly write: (line: readonly unknown[]) => void;
}

/** What a spreadsheet of a language needs: its decimal mark, another sign between columns, and a mark that the file is UTF-8. */
const OF_DECIMAL = {
  point: {},
  comma: { delimiter: ';', bom: true, cast: { number: (n: number) => String(n).replace('.', ',') } },
} as const satisfies Record<DecimalMark, object>;

/** Sends a table as a file (RFC 4180), line by line as it is read. What fails before the first line is an answer of its own. */
export async function sendCsv(
  response: Response,
  file: string,
  columns: readonly string[],
  write: (csv: Lines) => Promise<void>,
  decimal: DecimalMark = 'point',
): Promise<void> {
  const csv = stringify({
    header: true,
    columns: [...columns],
    record_delimiter: 'windows',
    ...OF_DECIMAL[decimal],
  });
  let begun = false;
  const begin = (): void => {
    if (begun) return;
    begun = true;
    response.set('Content-Type', 'text/csv; charset=utf-8; header=present');
    response.set('Content-Disposition', `attachment; filename="${file}"`);
    csv.pipe(response);
    csv.on('error', (error) => response.destroy(error));
  };
  try {
    await write({
      write: (line) => {
        begin();
        csv.write(line);
      },
    });
    begin();
    csv.end();
  } catch (error) {
    if (!begun) throw error;
    response.destroy(error as Error);
  }
}

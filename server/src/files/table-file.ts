import { say } from '@kalvet/core';
import { parse } from 'csv-parse/sync';
import { invalid } from '../write/problem.ts';

/**
 * The cells of a logger's file; semicolons, tabs or commas apart, as its first lines have most of. An empty line stays a row, so
 * that a row's number is its line.
 *
 * @throws invalid at `text` for what is no table
 */
export function rowsInFile(text: string): string[][] {
  const head = text.slice(0, 2000);
  const delimiter = [';', '\t', ','].reduce((best, each) =>
    head.split(each).length > head.split(best).length ? each : best,
  );
  try {
    return parse(text, { delimiter, relax_column_count: true, relax_quotes: true, skip_empty_lines: false, bom: true });
  } catch (error) {
    throw invalid({ text: say`The file cannot be read as lines of a table: ${(error as Error).message}` });
  }
}

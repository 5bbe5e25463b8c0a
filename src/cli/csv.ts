import Papa from 'papaparse';

/** Rows as CSV for the next program: unlike for a spreadsheet, every text stays as it is. */
export const csvOf = (fields: readonly string[], data: readonly (readonly (string | number)[])[]): string =>
  `${Papa.unparse({ fields: [...fields], data: data.map((row) => [...row]) }, { newline: '\n' })}\n`;

import { readFileSync } from 'node:fs';
import { join } from 'node:path';

const folder = join(import.meta.dirname, '../reference');

/** The results of a reference record (tests/reference/README.md), for comparison only. */
export function truth<T>(id: string): T {
  return (JSON.parse(readFileSync(join(folder, `${id}.json`), 'utf8')) as { result: T }).result;
}

/** The numbers of a reference data file, a row each, without its header. */
export function rows(name: string): number[][] {
  const lines = readFileSync(join(folder, name), 'utf8').trim().split(/\r?\n/).slice(1);
  return lines.filter((l) => !/(^|,)(NA)?(,|$)/.test(l)).map((l) => l.split(',').map(Number));
}

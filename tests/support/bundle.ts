import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { buildSync } from 'esbuild';

/**
 * One file of JavaScript made of a program and all of ours that it imports, for a process that is started many times.
 * Returns where it is: in the project, so that it finds the packages.
 */
export function bundle(program: string): string {
  const folder = join(process.cwd(), 'node_modules/.cache/lantern');
  mkdirSync(folder, { recursive: true });
  const outfile = join(folder, `${program.replace(/\W+/g, '-')}-${process.pid}.mjs`);
  buildSync({
    entryPoints: [program],
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    alias: { '@': join(process.cwd(), 'src') },
    outfile,
    logLevel: 'warning',
  });
  return outfile;
}

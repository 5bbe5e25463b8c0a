import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { basename, join } from 'node:path';
import { buildSync } from 'esbuild';

/** What a module of packages that were written for `require` expects to find. */
const FOR_REQUIRE = `import { createRequire as makeRequire } from 'node:module';
const require = makeRequire(import.meta.url);
const __filename = import.meta.filename;
const __dirname = import.meta.dirname;`;

/** Not to be bundled: it reads files that lie beside it, or is not installed. */
const BESIDE = ['@electric-sql/pglite', 'pg-native', 'esbuild', 'tsx'];

/**
 * Flags for a process that does little with its embedded database: compiling that engine as well as it can be takes
 * longer than such a process lives.
 */
export const SHORT_LIVED: readonly string[] = ['--wasm-tier-up-filter=0'];

/**
 * JavaScript made of a program and all that it imports, for a process that is started many times: it starts in a
 * fifth of the time. Returns the file to run: in the project, so that it finds what is not in it.
 */
export function bundle(program: string): string {
  const cache = join(process.cwd(), 'node_modules/.cache/lantern');
  mkdirSync(cache, { recursive: true });
  const outdir = mkdtempSync(join(cache, 'bundle-'));
  process.on('exit', () => rmSync(outdir, { recursive: true, force: true }));
  buildSync({
    entryPoints: [program],
    bundle: true,
    platform: 'node',
    format: 'esm',
    splitting: true,
    external: BESIDE,
    alias: { '@': join(process.cwd(), 'src') },
    banner: { js: FOR_REQUIRE },
    outdir,
    outExtension: { '.js': '.mjs' },
    logLevel: 'error',
  });
  return join(outdir, basename(program).replace(/\.ts$/, '.mjs'));
}

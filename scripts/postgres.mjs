import { spawnSync } from 'node:child_process';
import { chownSync, existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { must } from './common.mjs';

/** Folder of the server's programs, the newest version first; null if no server is installed. */
function programs() {
  const base = '/usr/lib/postgresql';
  if (!existsSync(base)) return null;
  const versions = readdirSync(base).sort((a, b) => Number(b) - Number(a));
  return versions.map((v) => join(base, v, 'bin')).find((bin) => existsSync(join(bin, 'initdb'))) ?? null;
}

function freePort() {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address();
      probe.close(() => resolve(port));
    });
  });
}

/** Starts a PostgreSQL server of its own on loopback, in a folder that goes with it. */
export async function startPostgres() {
  if (!programs()) {
    console.log('Installing PostgreSQL …');
    must('apt-get', ['update']);
    must('apt-get', ['install', '-y', '--no-install-recommends', 'postgresql']);
  }
  const bin = programs();
  const folder = mkdtempSync(join(tmpdir(), 'lantern-postgres-'));
  // The server refuses to run as root: then it runs as the user that Debian made for it.
  const root = process.getuid?.() === 0;
  if (root) {
    const id = (flag) => Number(spawnSync('id', [flag, 'postgres'], { encoding: 'utf8' }).stdout);
    chownSync(folder, id('-u'), id('-g'));
  }
  const run = (program, args) => {
    const command = [join(bin, program), ...args];
    const full = root
      ? ['setpriv', '--reuid=postgres', '--regid=postgres', '--clear-groups', ...command]
      : command;
    const done = spawnSync(full[0], full.slice(1), { encoding: 'utf8', cwd: folder });
    if (done.status !== 0) throw new Error(`${program}: ${done.stderr || done.stdout}`);
  };
  const port = await freePort();
  const data = join(folder, 'data');
  run('initdb', ['-D', data, '-U', 'lantern', '--auth=trust', '-E', 'UTF8', '--locale=C.UTF-8']);
  run('pg_ctl', [
    '-D',
    data,
    '-w',
    '-l',
    join(folder, 'log'),
    '-o',
    // Its data goes with it: nothing of it has to survive a power cut.
    `-p ${port} -h 127.0.0.1 -k ${folder} -c fsync=off -c synchronous_commit=off -c full_page_writes=off`,
    'start',
  ]);
  return {
    url: `postgres://lantern@127.0.0.1:${port}/postgres`,
    stop: () => {
      run('pg_ctl', ['-D', data, '-w', '-m', 'immediate', 'stop']);
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

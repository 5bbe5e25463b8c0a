import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';

/** The built application on a data folder, until it is stopped. Build first, by `npm run build`. */
export async function startServer(
  folder: string,
  port: number,
  env: Record<string, string>,
): Promise<{
  readonly pid: number;
  readonly stop: () => Promise<void>;
  readonly kill: () => Promise<void>;
}> {
  const server: ChildProcess = spawn(
    process.execPath,
    ['node_modules/next/dist/bin/next', 'start', '-p', String(port)],
    {
      // A message goes at once, so that nobody waits for half a minute to be over.
      env: { ...process.env, LANTERN_DATA: folder, PORT: String(port), LANTERN_CALL_BACK_S: '0', ...env },
      stdio: ['ignore', 'pipe', 'inherit'],
    },
  );
  await new Promise<void>((resolve, reject) => {
    server.stdout!.on('data', (d: Buffer) => d.toString().includes('Ready') && resolve());
    server.on('exit', () => reject(new Error('the server ended: build first, by npm run build')));
  });
  const end = async (signal: 'SIGTERM' | 'SIGKILL') => {
    if (server.exitCode != null || server.signalCode != null) return;
    server.removeAllListeners('exit');
    server.kill(signal);
    await once(server, 'exit');
  };
  return { pid: server.pid!, stop: () => end('SIGTERM'), kill: () => end('SIGKILL') };
}

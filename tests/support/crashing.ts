import { openEmbedded } from '@/data/database';
import { setDatabase } from '@/server/database';
import { importFiles } from '@/server/intake/intake';
import { checkStatements, receiveStatements } from '@/server/xapi/endpoint';

/** Events of an import: enough that a kill is likely to come in the middle. */
const EVENTS = 200;
const BATCH = 50;

/** The id of the statement with a number, in a run. */
const statementId = (run: number, n: number): string =>
  `00000000-0000-4000-8000-${String(run).padStart(4, '0')}${String(n).padStart(8, '0')}`;

/**
 * Imports and takes statements in until it is killed. Says on standard output what it has acknowledged: `import RUN N`
 * and `said RUN N` (all statements before number N).
 */
async function work(folder: string, run: number, courseId: number): Promise<void> {
  process.env.LANTERN_DATA = folder;
  const db = await openEmbedded(folder, 'the test of crashes');
  setDatabase(db);
  const start = Date.parse('2026-10-01T08:00:00Z') + run * 3_600_000;
  const importing = async () => {
    for (let n = 0; ; n++) {
      const rows = Array.from({ length: EVENTS }, (_, i) => {
        const at = new Date(start + (n * EVENTS + i) * 1000).toISOString();
        return `crash-${run}-${n}-${i},s${1 + (i % 4)},${at},view,r1,`;
      });
      const text = `event_id,student_id,at,kind,activity_id,duration_s\n${rows.join('\n')}\n`;
      const file = { name: 'events.csv', bytes: new TextEncoder().encode(text) };
      await importFiles(db, courseId, null, [file], Date.parse('2026-10-28T12:00:00Z'));
      process.stdout.write(`import ${run} ${n}\n`);
    }
  };
  const saying = async () => {
    for (let n = 0; ; n += BATCH) {
      const batch = Array.from({ length: BATCH }, (_, i) => ({
        id: statementId(run, n + i),
        actor: { account: { homePage: 'https://x.example', name: `s${1 + (i % 4)}` } },
        verb: { id: 'http://adlnet.gov/expapi/verbs/experienced' },
        object: { id: 'https://x.example/works/r1' },
        timestamp: new Date(start + (n + i) * 1000 + 500).toISOString(),
      }));
      await receiveStatements({ credentialId: 1, key: 'k', courseId }, checkStatements(batch));
      process.stdout.write(`said ${run} ${n + BATCH}\n`);
      // Requests come with turns of the event loop between them.
      await new Promise((resolve) => setImmediate(resolve));
    }
  };
  process.stdout.write('ready\n');
  await Promise.all([importing(), saying()]);
}

void work(process.argv[2]!, Number(process.argv[3]), Number(process.argv[4]));

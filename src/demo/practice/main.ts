import * as yup from 'yup';
import { SECOND_MS } from '@/core/units';
import { scenario } from '../scenario';
import { PracticeRoom } from './room';
import type { SentStatement } from './student';

const environment = yup.object({
  LANTERN_XAPI_URL: yup
    .string()
    .matches(/^https?:\/\//)
    .default('http://localhost:3000/xapi'),
  LANTERN_XAPI_KEY: yup.string().required(),
  LANTERN_XAPI_SECRET: yup.string().required(),
  PRACTICE_STUDENTS: yup.number().integer().min(1).max(500).default(12),
  PRACTICE_PACE: yup.number().min(0.1).max(1000).default(1),
  PRACTICE_SEED: yup.number().integer().min(0).default(7),
});

/** Statements a request at most. */
const BATCH = 50;
/** Kept while the server cannot be reached; the oldest go. */
const MOST_KEPT = 5000;

/** The practice room: sends what simulated students do to the statements endpoint until it is stopped. */
async function main(): Promise<void> {
  const env = environment.validateSync(process.env, { stripUnknown: true });
  const start = Date.now();
  const room = new PracticeRoom(
    scenario({ now: start, students: env.PRACTICE_STUDENTS > 73 ? env.PRACTICE_STUDENTS + 40 : undefined }),
    { seed: env.PRACTICE_SEED, start, students: env.PRACTICE_STUDENTS, pace: env.PRACTICE_PACE },
  );
  const authorization = `Basic ${Buffer.from(`${env.LANTERN_XAPI_KEY}:${env.LANTERN_XAPI_SECRET}`).toString('base64')}`;
  const send = async (list: readonly SentStatement[]): Promise<'taken' | 'refused' | 'later'> => {
    try {
      const response = await fetch(`${env.LANTERN_XAPI_URL}/statements`, {
        method: 'POST',
        headers: {
          authorization,
          'content-type': 'application/json',
          'x-experience-api-version': '1.0.3',
        },
        body: JSON.stringify(list),
      });
      if (response.ok) return 'taken';
      return response.status === 429 || response.status >= 500 ? 'later' : 'refused';
    } catch {
      return 'later';
    }
  };
  let waiting: SentStatement[] = [];
  let stopped = false;
  for (const signal of ['SIGTERM', 'SIGINT'] as const) process.on(signal, () => (stopped = true));
  while (!stopped) {
    waiting = [...waiting, ...room.until(Date.now())].slice(-MOST_KEPT);
    while (waiting.length > 0) {
      const answer = await send(waiting.slice(0, BATCH));
      if (answer === 'later') break;
      if (answer === 'refused') {
        console.error('The practice room was refused: is its key still in use?');
        process.exit(1);
      }
      waiting = waiting.slice(BATCH);
    }
    await new Promise((resolve) => setTimeout(resolve, SECOND_MS));
  }
}

main().catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : error);
  process.exit(1);
});

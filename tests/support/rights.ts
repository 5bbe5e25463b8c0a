import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { may, RIGHTS, ROLES, type Right, type Role } from '@/core/access/may';
import type { JobKind } from '@/data/schema';

/** Whether a role may do what asks for some rights. */
const mayAll = (role: Role, rights: readonly Right[]): boolean =>
  rights.every((right) => may([{ role, course: 1, until: null }], right, 1, 0));

/** Who may ask a route; every one of `src/app` has a line here, or its test fails. */
const ROUTES: Readonly<Record<string, string>> = {
  'api/auth/[...all]': 'anyone: signing in and out',
  'api/courses/[code]/contacts/[file]': 'act',
  'api/courses/[code]/examples/[file]': 'import',
  'api/courses/[code]/export/[format]': 'export',
  'api/courses/[code]/imports': 'import',
  'api/courses/[code]/imports/[id]/[kind]': 'import, and only whoever sent the files',
  'api/courses/[code]/jobs/[id]': 'whoever began the job',
  'api/courses/[code]/lists/[file]': 'look',
  'api/courses/[code]/live': 'look',
  'api/courses/[code]/messages': 'act',
  'api/courses/[code]/students/[id]/archive': 'export; conversations, notes and appointments with act',
  'api/courses/[code]/tray': 'look',
  'api/health': 'anyone',
  'api/mail/[id]': 'act, or the student it was sent to',
  'api/plans/[token]': 'whoever has the address, which the student can renew',
  'api/replies/[id]': 'act',
  'api/talks/[id]': 'the student, or the instructor, of the appointment',
  'api/unreadable': 'anyone: says that a request can’t be read',
  'xapi/[[...rest]]': 'a key of a course',
  'xapi/about': 'anyone',
  'xapi/activities': 'a key of a course',
  'xapi/activities/profile': 'a key of a course',
  'xapi/activities/state': 'a key of a course',
  'xapi/agents': 'a key of a course',
  'xapi/agents/profile': 'a key of a course',
  'xapi/statements': 'a key of a course',
};

/** In whose name a job works; a kind without a line does not compile. */
const JOBS: Readonly<Record<JobKind, string>> = {
  mail: 'whoever sent the message',
  letter: 'the application',
  review: 'whoever set the time, while they may act',
  follow: 'the application',
  evaluate: 'the application',
  rebuild: 'the application',
  import: 'whoever sent the files, while they may import',
  'import every': 'whoever sent the files, while they may import',
  sweep: 'the application',
  rules: 'the owner of each rule, while they may act',
  plans: 'the application',
  'dry run': 'whoever asked for it, while they may act',
  feed: 'whoever set it up, while they may import',
  'mail in': 'whoever holds the signed address',
};

function routes(folder = '', base = join(process.cwd(), 'src/app')): string[] {
  return readdirSync(join(base, folder), { withFileTypes: true }).flatMap((e) =>
    e.isDirectory() ? routes(join(folder, e.name), base) : e.name === 'route.ts' ? [folder] : [],
  );
}

/** The table of rights: by action the rights it asked for as it was tried, and who has them; by route and job who may. */
export function rightsTable(actions: ReadonlyMap<string, ReadonlySet<string>>): string {
  const lines = [
    '# Who may do what',
    '',
    'Made by the tests from what each action asks for; a new one without a line here fails them.',
    '',
    `| action | asks for | ${ROLES.join(' | ')} |`,
    `| --- | --- | ${ROLES.map(() => '---').join(' | ')} |`,
  ];
  for (const [name, asked] of [...actions].sort(([a], [b]) => (a < b ? -1 : 1))) {
    const rights = RIGHTS.filter((r) => asked.has(r));
    const who = ROLES.map((role) => (rights.length === 0 ? '' : mayAll(role, rights) ? 'yes' : ''));
    lines.push(
      `| ${name.replace(/Action$/, '')} | ${rights.join(', ') || 'its owner'} | ${who.join(' | ')} |`,
    );
  }
  lines.push('', '| route | asks for |', '| --- | --- |');
  for (const route of routes().sort()) lines.push(`| /${route} | ${ROUTES[route] ?? 'NO LINE'} |`);
  lines.push('', '| job | in whose name |', '| --- | --- |');
  for (const [kind, who] of Object.entries(JOBS)) lines.push(`| ${kind} | ${who} |`);
  return `${lines.join('\n')}\n`;
}

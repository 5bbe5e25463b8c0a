import { parseArgs } from 'node:util';
import { GAP_MINUTES } from '@/core/activity/dwell';
import { ANY_YEAR, parseInstant } from '@/core/calendar/instant';
import { now } from '@/server/base/clock';
import { gradesCommand } from './grades';
import { HALF_LIFE_DAYS, type BetaPrior } from '@/core/outcomes/mastery';
import { InputError } from './input';
import { itemsCommand } from './items';
import { masteryCommand } from './mastery';
import { reviewCommand } from './review';
import { scheduleCommand } from './schedule';
import { selectCommand } from './select';
import { sessionsCommand } from './sessions';
import { trendCommand } from './trend';

const USAGE = `lantern: the computations of Ready Lantern on files

  sessions --events FILE [--gap MINUTES] [--last own|zero]
      sessions and time on task of a CSV with student,at and optionally
      event_id,kind,activity,duration_s
  trend --scores FILE
      slopes and trend test of a CSV with student,at,percent
  grades --gradebook FILE.json [--as-of INSTANT]
      standing, possible grades and completion
  select --table FILE.csv --where FILE.json
      student,match (yes, no or unknown) of a CSV with student and a column a measure,
      by a condition on its columns
  items --responses FILE.csv [--key FILE.csv] [--omitted VALUE] [--ignore COL,COL]
      item analysis of a CSV with a row a student and a column an item, as JSON; with a
      key (item,key) the cells are options, without one scores
  mastery --evidence FILE.csv --as-of INSTANT [--half-life DAYS] [--prior A,B]
      how far each student has each outcome, of a CSV with
      student,outcome,at,share,weight
  review --answers FILE.csv --as-of INSTANT
      how well each student still knows each item, of a CSV with student,item,at,right
      (0 or 1)
  schedule --plan FILE.json
      a day for each step of a plan, in the order in which they are to be done

  import --course CODE [--zone ZONE] [--staff EMAIL] FILE…
      CSV, JSON or zip files, or a folder of them, into a course, which is made
      if it is not there
  import --every [--zone ZONE] [--staff EMAIL] FILE…
      the same for each course of a OneRoster package
  export --course CODE --format oneroster|xapi|csv|xlsx --out FILE
      a whole course in an open format
  rebuild
      everything derived of every course anew
  check
      whether what is derived is what a rebuild gives
  flags --course CODE [--as-of INSTANT]
      the open flags as CSV: student,indicator,level,since,reason
  rules --course CODE --dry-run RULE
      what a rule would have sent in the weeks gone by as CSV: student,at,held,reason;
      RULE is its number, its name or a starter (praise, reminder, hard work, not seen,
      due soon, back again, improved)
  jobs
      work that waits, runs or has failed in the queue, with the reason
  proposals
      changes to people and units that others rely on, proposed by instructors
  settle --proposal NUMBER --as accepted|refused
      makes one of them, or leaves it

The last ten open the data folder (LANTERN_DATA, or .lantern) themselves and refuse while
another process has it open. They say on standard error how far they are, and a summary as
JSON on standard output (flags and rules: their CSV).

FILE may be - for standard input (the commands above that read one). Instants are ISO 8601 with zone.`;

type Options = Record<string, { type: 'string' }>;

/** Named values of a command line; anything not asked for is refused. */
function optionsOf(args: string[], names: readonly string[]): Record<string, string | undefined> {
  const options: Options = Object.fromEntries(names.map((name) => [name, { type: 'string' as const }]));
  try {
    return parseArgs({ args, options, strict: true }).values;
  } catch (error) {
    throw new InputError([error instanceof Error ? error.message : 'the options cannot be read', '', USAGE]);
  }
}

function needed(value: string | undefined, name: string): string {
  if (value === undefined) throw new InputError([`--${name} is needed`, '', USAGE]);
  return value;
}

function gapOf(text: string | undefined): number {
  if (text === undefined) return GAP_MINUTES.usual;
  const gap = /^\d+(\.\d+)?$/.test(text) ? Number(text) : NaN;
  if (!(gap > 0 && gap <= 24 * 60))
    throw new InputError([`--gap: “${text}” is not a number of minutes from 0 to 1440`]);
  return gap;
}

function lastOf(text: string | undefined): 'own' | 'zero' {
  if (text === undefined || text === 'own') return 'own';
  if (text === 'zero') return 'zero';
  throw new InputError([`--last: “${text}” is neither own nor zero`]);
}

function instantOf(text: string | undefined): number {
  if (text === undefined) return now();
  const parsed = parseInstant(text, ANY_YEAR);
  if (!parsed.ok) throw new InputError([`--as-of: ${parsed.reason}`]);
  return parsed.value;
}

/** A number over 0. */
function positive(text: string, name: string): number {
  const value = /^\d+(\.\d+)?(e[+-]?\d+)?$/i.test(text.trim()) ? Number(text) : NaN;
  if (!(value > 0 && value < 1e9)) throw new InputError([`--${name}: “${text}” is not a number over 0`]);
  return value;
}

function priorOf(text: string): BetaPrior {
  const [a, b, more] = text.split(',');
  if (a === undefined || b === undefined || more !== undefined)
    throw new InputError([`--prior: “${text}” is not two numbers with a comma between`]);
  return { a: positive(a, 'prior'), b: positive(b, 'prior') };
}

/** Options and the files named after them. */
function withFiles(args: string[], names: readonly string[]) {
  try {
    const options: Options = Object.fromEntries(names.map((name) => [name, { type: 'string' as const }]));
    return parseArgs({ args, options, strict: true, allowPositionals: true });
  } catch (error) {
    throw new InputError([error instanceof Error ? error.message : 'the options cannot be read', '', USAGE]);
  }
}

/** The commands that open the data folder: loaded only for them, since the database takes its time. */
const withData = () => import('./course');

async function run([command, ...args]: string[]): Promise<string> {
  switch (command) {
    case 'import': {
      const every = args.includes('--every');
      const rest = args.filter((a) => a !== '--every');
      const { values: o, positionals: files } = withFiles(rest, ['course', 'zone', 'staff']);
      if (files.length === 0) throw new InputError(['name at least one file', '', USAGE]);
      if (every && o.course !== undefined)
        throw new InputError(['--every takes all courses; leave --course out', '', USAGE]);
      const options = { files, zone: o.zone ?? 'UTC', staff: o.staff ?? null };
      if (every) return (await withData()).importEveryCommand(options);
      return (await withData()).importCommand({ ...options, course: needed(o.course, 'course') });
    }
    case 'export': {
      const o = optionsOf(args, ['course', 'format', 'out']);
      return (await withData()).exportCommand(
        needed(o.course, 'course'),
        needed(o.format, 'format'),
        needed(o.out, 'out'),
      );
    }
    case 'rebuild':
      optionsOf(args, []);
      return (await withData()).rebuildCommand();
    case 'check':
      optionsOf(args, []);
      return (await withData()).checkCommand();
    case 'flags': {
      const o = optionsOf(args, ['course', 'as-of']);
      const at = o['as-of'] === undefined ? null : instantOf(o['as-of']);
      return (await withData()).flagsCommand(needed(o.course, 'course'), at);
    }
    case 'rules': {
      const o = optionsOf(args, ['course', 'dry-run']);
      return (await withData()).rulesCommand(needed(o.course, 'course'), needed(o['dry-run'], 'dry-run'));
    }
    case 'jobs':
      optionsOf(args, []);
      return (await withData()).jobsCommand();
    case 'proposals':
      optionsOf(args, []);
      return (await withData()).proposalsCommand();
    case 'settle': {
      const o = optionsOf(args, ['proposal', 'as']);
      const as = needed(o.as, 'as');
      if (as !== 'accepted' && as !== 'refused')
        throw new InputError([`--as: “${as}” is neither accepted nor refused`]);
      const id = needed(o.proposal, 'proposal');
      if (!/^\d{1,9}$/.test(id)) throw new InputError([`--proposal: “${id}” is not a number`]);
      return (await withData()).settleCommand(Number(id), as === 'accepted');
    }
    case 'sessions': {
      const o = optionsOf(args, ['events', 'gap', 'last']);
      return sessionsCommand(needed(o.events, 'events'), { gapMinutes: gapOf(o.gap), last: lastOf(o.last) });
    }
    case 'trend':
      return trendCommand(needed(optionsOf(args, ['scores']).scores, 'scores'));
    case 'grades': {
      const o = optionsOf(args, ['gradebook', 'as-of']);
      return gradesCommand(needed(o.gradebook, 'gradebook'), instantOf(o['as-of']));
    }
    case 'select': {
      const o = optionsOf(args, ['table', 'where']);
      return selectCommand(needed(o.table, 'table'), needed(o.where, 'where'));
    }
    case 'items': {
      const o = optionsOf(args, ['responses', 'key', 'omitted', 'ignore']);
      return itemsCommand(needed(o.responses, 'responses'), {
        key: o.key ?? null,
        omitted: o.omitted ?? null,
        ignore: (o.ignore ?? '').split(',').flatMap((name) => name.trim() || []),
      });
    }
    case 'review': {
      const o = optionsOf(args, ['answers', 'as-of']);
      return reviewCommand(needed(o.answers, 'answers'), instantOf(needed(o['as-of'], 'as-of')));
    }
    case 'schedule':
      return scheduleCommand(needed(optionsOf(args, ['plan']).plan, 'plan'));
    case 'mastery': {
      const o = optionsOf(args, ['evidence', 'as-of', 'half-life', 'prior']);
      return masteryCommand(needed(o.evidence, 'evidence'), {
        asOf: instantOf(needed(o['as-of'], 'as-of')),
        halfLifeDays: o['half-life'] === undefined ? HALF_LIFE_DAYS : positive(o['half-life'], 'half-life'),
        prior: o.prior === undefined ? null : priorOf(o.prior),
      });
    }
    case undefined:
    case 'help':
    case '--help':
      return `${USAGE}\n`;
    default:
      throw new InputError([`there is no command “${command}”`, '', USAGE]);
  }
}

run(process.argv.slice(2)).then(
  (text) => process.stdout.write(text),
  (error: unknown) => {
    if (!(error instanceof InputError)) throw error;
    process.stderr.write(`${error.lines.join('\n')}\n`);
    process.exitCode = 2;
  },
);

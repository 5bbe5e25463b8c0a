import { benchActing } from './acting';
import { benchIntake } from './intake';
import { misses } from './measure';
import { benchRounds } from './rounds';
import { benchRules } from './rules';
import { benchBeside } from './beside';
import { benchCrowd } from './crowd';
import { benchDoors } from './doors';
import { benchMail } from './mail';
import { benchItems } from './items';
import { benchLive } from './live';
import { benchMastery } from './mastery';
import { benchPlans } from './plans';
import { benchPage } from './page';
import { benchScroll } from './scroll';
import { benchSelect } from './select';
import { benchViews } from './views';
import { benchSessions } from './sessions';

const all = {
  sessions: benchSessions,
  select: benchSelect,
  items: benchItems,
  mastery: benchMastery,
  plans: benchPlans,
  import: benchIntake,
  beside: benchBeside,
  rounds: benchRounds,
  acting: benchActing,
  rules: benchRules,
  views: benchViews,
  page: benchPage,
  scroll: benchScroll,
  live: benchLive,
  crowd: benchCrowd,
  doors: benchDoors,
  mail: benchMail,
};
const asked = process.argv.slice(2);

/** Runs the benchmarks named on the command line, or all. Ends with 1 if a bound was missed. */
async function main(): Promise<void> {
  for (const [name, bench] of Object.entries(all)) {
    if (asked.length === 0 || asked.includes(name)) await bench();
  }
  process.exit(misses() === 0 ? 0 : 1);
}

void main();

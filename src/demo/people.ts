import type { RosterRecord } from '@/core/course/records';
import type { Term } from '@/core/calendar/term';
import { addDays } from '@/core/calendar/zone';
import { SECTIONS } from './course';
import { seeded, type Random } from './random';

/** How somebody studies: what the scenario needs to make their term. */
export interface Habit {
  readonly name:
    | 'steady'
    | 'stopped'
    | 'strong and stopped'
    | 'behind'
    | 'slipping'
    | 'effort without progress'
    | 'little time'
    | 'only in class'
    | 'late joiner'
    | 'withdrawn';
  /** Expected share of the points, 0 to 1. */
  readonly ability: number;
  /** Chance of studying on a day. */
  readonly daily: number;
  /** Events in a sitting. */
  readonly sitting: number;
  /** Chance of not handing a work in. */
  readonly skips: number;
}

export interface DemoStudent {
  readonly roster: RosterRecord;
  readonly habit: Habit;
}

const GIVEN =
  `Iolanthe Tomasz Priya Bastien Maren Joaquín Sunniva Eoghan Wilhelmina Corinne Amadou Marisol Ioan Dagny Temperance
Folke Nils Solveig Åse Zoë Renée Matěj Łucja Ömer İlkay Bo Ngọc Hæge Siân Máirín Chukwuemeka Anneliese Théodora Dmitar Oluwaseun
Kirsi Paavo Estrela Valeriu Ngaire Tane Leocadia Fintan Ysolde Radomir Ariadne Jokūbas Elif Cosmin Beatriz Håkon Nerys Casimir
Mireille Aurelio Ludmila Thandiwe Kasimira Emrys Noor Viggo Imogen Bogdana Isidro Freja Gwendolen Oddvar Marit Zsófia Rúnar Ida
Lorcan Séverine`.split(/\s+/);
const FAMILY =
  `Varga|Okonedo-Lind|Halloran|Achterberg|Ødegaard-Whitlock|Teh|Castellanos|Mbeki|Aarts|Baptiste|Desrosiers|Eklund|Faulkner|Iversen|Kowalczyk|Adeyemi-Brandt|Alvarado|Hernández-Nakamura|Brekke|O|Lefèvre|Dvořáček|Wójcik-Sienkiewicz|Yıldız|Şahin|Li|Trần|Sørensen|Pryce|Ó Dálaigh|Nwachukwu-Featherstonehaugh|Krüger|Papadimitriou|Petković|Adébáyò|Lähteenmäki|Virtanen|Carvalho|Munteanu|Tamahori|Rangihuna|Echeverría|Kavanagh|Tregenza|Zelenka|Stavros|Kazlauskas|Demirci|Ionescu|Figueira|Bjørnstad|Llewellyn|Zawadzki|Delacroix|Montefiore|Horváthová|Dlamini|Brzezińska|Gethin|van der Haar|Lindqvist|Ashdown|Stoyanova|Quintanilla|Dahl|Penhaligon|Haugen|Solbakken|Kőszegi|Þórsson|Wren|Mac Giolla Phádraig|Beauvoir-Lachance`.split(
    '|',
  );

const habits: Record<Exclude<Habit['name'], 'steady'>, Omit<Habit, 'name'>> = {
  stopped: { ability: 0.74, daily: 0.5, sitting: 22, skips: 0.05 },
  'strong and stopped': { ability: 0.95, daily: 0.62, sitting: 26, skips: 0 },
  behind: { ability: 0.76, daily: 0.48, sitting: 22, skips: 0.05 },
  slipping: { ability: 0.84, daily: 0.55, sitting: 24, skips: 0.02 },
  'effort without progress': { ability: 0.6, daily: 0.8, sitting: 36, skips: 0 },
  'little time': { ability: 0.76, daily: 0.12, sitting: 9, skips: 0.04 },
  'only in class': { ability: 0.7, daily: 0, sitting: 24, skips: 0.04 },
  'late joiner': { ability: 0.72, daily: 0.6, sitting: 24, skips: 0.02 },
  withdrawn: { ability: 0.6, daily: 0.4, sitting: 20, skips: 0.2 },
};

/** Who is which hard case, by place in the roster; everybody else is steady. */
const CAST: Readonly<Record<number, Exclude<Habit['name'], 'steady'>>> = {
  0: 'stopped',
  1: 'behind',
  2: 'slipping',
  3: 'effort without progress',
  4: 'little time',
  6: 'behind',
  11: 'strong and stopped',
  15: 'late joiner',
  18: 'only in class',
  22: 'behind',
  25: 'little time',
  28: 'slipping',
  30: 'effort without progress',
  33: 'stopped',
  38: 'only in class',
  44: 'behind',
  52: 'effort without progress',
  60: 'slipping',
  72: 'withdrawn',
};
/** Whose address no longer exists: the mail stand-in refuses it. */
const BOUNCED = 6;

const plain = (text: string) =>
  text
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')
    .replace(/[øØ]/g, 'o')
    .replace(/[łŁ]/g, 'l')
    .replace(/[æÆ]/g, 'ae')
    .replace(/[þÞ]/g, 'th')
    .replace(/ı/g, 'i')
    .toLowerCase()
    .replace(/[^a-z]+/g, '-')
    .replace(/^-|-$/g, '');

function habitOf(place: number, random: Random): Habit {
  const name = CAST[place % GIVEN.length];
  if (name && place < GIVEN.length) return { name, ...habits[name] };
  const ability = Math.min(0.98, Math.max(0.72, 0.87 + 0.07 * random.normal()));
  return {
    name: 'steady',
    ability,
    daily: Math.min(0.85, Math.max(0.48, 0.58 + 0.3 * (ability - 0.87) + 0.08 * random.normal())),
    sitting: Math.round(26 + 4 * random.normal()),
    skips: 0.012,
  };
}

/** The people of the main course: 72 active and one who withdrew. More are made for measuring only. */
export function demoStudents(term: Term, count = GIVEN.length, seed = 1): DemoStudent[] {
  const random = seeded(seed);
  return Array.from({ length: count }, (_, place) => {
    const round = Math.floor(place / GIVEN.length);
    const given = GIVEN[place % GIVEN.length]!;
    const family = FAMILY[(place * (round === 0 ? 1 : 7) + round) % FAMILY.length]!;
    const habit = habitOf(place, random);
    const withdrawn = habit.name === 'withdrawn';
    const domain = place === BOUNCED ? 'gone.saltmarsh.example' : 'students.saltmarsh.example';
    const tail = round === 0 ? '' : `.${round}`;
    return {
      habit,
      roster: {
        id: `S${1001 + place}`,
        given,
        family,
        email: `${plain(given)}.${plain(family) || 'o'}${tail}@${domain}`,
        section: SECTIONS[habit.name === 'only in class' ? place % 2 : [2, 0, 1, 0, 1, 2][place % 6]!]!.name,
        status: withdrawn ? 'withdrawn' : 'active',
        joined: habit.name === 'late joiner' ? addDays(term.start, 29) : term.start,
        left: withdrawn ? addDays(term.start, 38) : null,
      },
    };
  });
}

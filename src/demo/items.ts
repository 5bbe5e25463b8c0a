import type { ActivityRecord, ItemRecord } from '@/core/course/records';

/** Items of each quiz, one a point. */
export const ITEMS = 10;
export const CHOICES = ['A', 'B', 'C', 'D'] as const;
/** The item of each quiz that asks for a number, and what is right. */
export const NUMERIC = { at: 7, right: '3.4 m' } as const;
/** An item whose key is wrong: those who know the answer get it wrong. */
export const WRONG_KEY = { quiz: 'quiz-streams', at: 6, known: 'C' } as const;

export const itemName = (at: number): string => `item ${at + 1}`;

/** The letter under which the right answer to an item of choices stands: not the same for all. */
export function keyOf(quiz: string, at: number): string {
  const letter = CHOICES[(at * 3 + quiz.length) % CHOICES.length]!;
  return quiz === WRONG_KEY.quiz && at === WRONG_KEY.at ? 'A' : letter;
}

/** What is asked, the right answer first among those to choose from, and why. */
type Text = readonly [stem: string, answers: readonly string[], why: string];

const TEXTS: Readonly<Record<string, readonly Text[]>> = {
  'quiz-heights': [
    [
      'From where is a charted depth measured?',
      ['Chart datum', 'Mean sea level', 'The level at noon', 'The last high water'],
      'Depths on the chart count from chart datum, so that there is seldom less water than it shows.',
    ],
    [
      'When are the highest and the lowest tides of a fortnight?',
      ['Shortly after new and full moon', 'At half moon', 'When the wind drops', 'On the first of the month'],
      'Sun and moon pull in line then: spring tides follow a day or two later.',
    ],
    [
      'What is the range of a tide?',
      [
        'High water less the low water beside it',
        'High water less chart datum',
        'The depth under the keel',
        'The time from high to low water',
      ],
      'The range is how far the water rises or falls between neighbouring high and low waters.',
    ],
    [
      'What must be added to a charted depth to get the depth of water?',
      ['The height of tide', 'The range', 'The drying height', 'The draught'],
      'Depth of water is charted depth and height of tide together.',
    ],
    [
      'A rock has a drying height of 2 m. The height of tide is 3 m. How much water is over it?',
      ['1 m', '5 m', '3 m', 'None'],
      'A drying height stands above datum: 3 m less 2 m leaves 1 m.',
    ],
    [
      'By the rule of twelfths, how much of the range runs in the third hour?',
      ['3 twelfths', '1 twelfth', '2 twelfths', '6 twelfths'],
      'The rule goes 1, 2, 3, 3, 2, 1: the middle hours run hardest.',
    ],
    [
      'What lowers the water under its prediction?',
      ['High pressure and wind off the land', 'Low pressure', 'Wind onto the land', 'Rain'],
      'High pressure presses the water down, and wind off the land drives it away.',
    ],
    [
      'Low water is 0.9 m, and the tide has risen 2.5 m since. What is the height of tide?',
      [],
      'The height of tide counts from chart datum: 0.9 m and 2.5 m are 3.4 m. A height without its unit says nothing.',
    ],
    [
      'A secondary port gives +0020 for high water. What does that mean?',
      [
        'High water is 20 minutes later there',
        'High water is 20 minutes earlier there',
        'The water is 0.2 m higher there',
        'The clock is 20 minutes ahead there',
      ],
      'Differences are added to the times of the standard port.',
    ],
    [
      'Under a bridge, from where is the charted clearance measured?',
      ['A high water level', 'Chart datum', 'Mean low water', 'The level now'],
      'Clearances count from a high level, so that there is seldom less room than the chart shows.',
    ],
  ],
  'quiz-streams': [
    [
      'In which direction is a tidal stream named?',
      ['Where it runs to', 'Where it comes from', 'Always north', 'Where the wind blows'],
      'A stream is named for where it sets, a wind for where it comes from.',
    ],
    [
      'What is slack water?',
      ['The time of little or no stream', 'Low water', 'High water', 'The neap tide'],
      'It need not fall on high or low water.',
    ],
    [
      'The atlas gives 08,16 beside an arrow. What is 1.6 knots?',
      ['The rate at springs', 'The rate at neaps', 'The mean rate', 'The rate in knots an hour'],
      'The lower rate is for neaps, the higher for springs, in tenths of a knot.',
    ],
    [
      'Hours of the atlas count from high water of which port?',
      ['The one that the atlas names', 'The nearest port', 'The port of departure', 'The port of arrival'],
      'Every page is so many hours before or after high water of the one reference port.',
    ],
    [
      'Between springs and neaps, how is the rate found?',
      ['By the range of the day', 'By the wind', 'By the depth', 'By the time of day'],
      'The rate grows with the range: read between the two rates by it.',
    ],
    [
      'With wind against the stream, what is the sea like?',
      ['Short and steep', 'Long and low', 'Flat', 'As with no wind'],
      'The stream shortens the waves that run against it.',
    ],
    [
      'When does the stream through a narrow channel usually run hardest?',
      ['At high water', 'At low water', 'About half way between high and low water', 'At slack water'],
      'The water moves most when the level changes fastest, half way between high and low water.',
    ],
    [
      'Low water on the bar is 0.9 m, and the flood has brought 2.5 m. What is the height of tide?',
      [],
      'The height of tide counts from chart datum: 0.9 m and 2.5 m are 3.4 m. A height without its unit says nothing.',
    ],
    [
      'You steer 090 and the stream sets 180. Where does it put you?',
      ['South of your track', 'North of your track', 'Behind', 'Ahead'],
      'The stream carries you where it runs to: south.',
    ],
    [
      'How is a course to steer through a stream laid off?',
      [
        'The stream first, then the speed from its end to the track',
        'The speed first, then the stream',
        'The track less the stream',
        'By doubling the drift',
      ],
      'From the start lay off what the stream does in an hour; from its end swing the speed to the track.',
    ],
  ],
  'quiz-lights': [
    [
      'Which light shows over the port bow?',
      ['Red', 'Green', 'White', 'Yellow'],
      'Sidelights are red to port and green to starboard.',
    ],
    [
      'Over which arc does a stern light show?',
      ['135 degrees', '225 degrees', '112.5 degrees', '360 degrees'],
      'Masthead 225, each side 112.5, stern 135: with the masthead light it makes the full circle.',
    ],
    [
      'You see a white light under a red one, and no others. What may it be?',
      [
        'A pilot vessel showing the other way round',
        'A vessel fishing',
        'A vessel aground',
        'A tug with a tow',
      ],
      'Red over white is fishing; white over red is a pilot vessel.',
    ],
    [
      'What does a vessel at anchor show by day?',
      ['One ball', 'Two balls', 'A cone', 'A cylinder'],
      'One ball forward. Two balls, one over the other, say that she is not under command.',
    ],
    [
      'Two red lights, one over the other, and sidelights: what is it?',
      ['A vessel not under command, making way', 'A vessel at anchor', 'A vessel aground', 'A tow'],
      'Two all-round reds are not under command; with sidelights she makes way.',
    ],
    [
      'How does a sailing vessel under engine show it by day?',
      ['A cone with its point down', 'A ball', 'A cone with its point up', 'A diamond'],
      'She counts as a power-driven vessel then, and says so by the cone.',
    ],
    [
      'What does a diamond mean in a tow by day?',
      ['The tow is longer than 200 m', 'The tow is dangerous', 'The tow is empty', 'The tug is restricted'],
      'It is shown where the length of the tow exceeds 200 m.',
    ],
    [
      'A lantern stands 1.9 m above a deck that is 1.5 m above the water. How high does it stand?',
      [],
      '1.9 m and 1.5 m are 3.4 m. A height without its unit says nothing.',
    ],
    [
      'Which vessels may show a green over a white light, all round?',
      ['Trawlers', 'Drifters', 'Pilot vessels', 'Dredgers'],
      'Green over white is trawling; red over white is other fishing.',
    ],
    [
      'When must lights be shown?',
      [
        'From sunset to sunrise, and by day in restricted visibility',
        'Only after dark',
        'When another vessel is near',
        'When under way',
      ],
      'From sunset to sunrise, and from sunrise to sunset in restricted visibility.',
    ],
  ],
};

/** The items of the quizzes: some with what they ask, the others with their keys alone. */
export const itemRecords = (activities: readonly ActivityRecord[]): ItemRecord[] =>
  activities
    .filter((a) => a.kind === 'quiz')
    .flatMap(({ id }) =>
      Array.from({ length: ITEMS }, (_, at): ItemRecord => {
        const text = TEXTS[id]?.[at];
        const key = at === NUMERIC.at ? NUMERIC.right : keyOf(id, at);
        const others = [...(text?.[1].slice(1) ?? [])];
        const isWrong = id === WRONG_KEY.quiz && at === WRONG_KEY.at;
        return {
          activity: id,
          item: itemName(at),
          stem: text?.[0] ?? null,
          options:
            at === NUMERIC.at
              ? []
              : CHOICES.map((option, i) => ({
                  option,
                  text: !text ? '' : isWrong ? text[1][i]! : option === key ? text[1][0]! : others.shift()!,
                })),
          keys: [key],
          explanation: text?.[2] ?? null,
        };
      }),
    );

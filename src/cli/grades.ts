import * as yup from 'yup';
import { parseInstant, ANY_YEAR } from '@/core/calendar/instant';
import { completion } from '@/core/gradebook/completion';
import type { Gradebook, Score } from '@/core/course/gradebook';
import { standing } from '@/core/gradebook/standing';
import type { Instant } from '@/core/units';
import { byCode, InputError, readText } from './input';

const instant = yup
  .string()
  .nullable()
  .defined()
  .test('instant', (value, context) => {
    if (value == null) return true;
    const parsed = parseInstant(value, ANY_YEAR);
    return parsed.ok || context.createError({ message: `${context.path}: ${parsed.reason}` });
  });
const id = yup.string().required();

const schema = yup.object({
  policy: yup
    .object({
      missing: yup
        .string()
        .oneOf(['zero', 'ignore'] as const)
        .required(),
    })
    .required(),
  categories: yup
    .array(
      yup.object({
        id,
        weight: yup.number().min(0).required(),
        drop_lowest: yup.number().integer().min(0).default(0),
      }),
    )
    .required(),
  activities: yup
    .array(yup.object({ id, category: id, points: yup.number().min(0).required(), due: instant }))
    .required(),
  scores: yup
    .array(
      yup.object({
        student: id,
        activity: id,
        points: yup.number().nullable().defined(),
        excused: yup.boolean().required(),
        submitted: instant,
        returned: instant,
      }),
    )
    .required(),
});
type GradebookFile = yup.InferType<typeof schema>;

const toInstant = (text: string | null): Instant | null => {
  const parsed = text == null ? null : parseInstant(text, ANY_YEAR);
  return parsed?.ok ? parsed.value : null;
};

function parse(file: string): GradebookFile {
  let json: unknown;
  try {
    json = JSON.parse(readText(file));
  } catch (error) {
    if (error instanceof InputError) throw error;
    throw new InputError([`${file}: not JSON: ${error instanceof Error ? error.message : ''}`]);
  }
  try {
    return schema.validateSync(json, { strict: true, abortEarly: false });
  } catch (error) {
    if (error instanceof yup.ValidationError) throw new InputError(error.errors.map((e) => `${file}: ${e}`));
    throw error;
  }
}

/** What the schema cannot say: names that must exist, and must not be there twice. */
function check(file: string, book: GradebookFile): void {
  const errors: string[] = [];
  const unique = (list: readonly string[], what: string) =>
    list.forEach((value, i) => {
      if (list.indexOf(value) !== i) errors.push(`${file}: ${what}[${i}]: “${value}” occurs twice`);
    });
  unique(
    book.categories.map((c) => c.id),
    'categories',
  );
  unique(
    book.activities.map((a) => a.id),
    'activities',
  );
  const categories = new Set(book.categories.map((c) => c.id));
  const activities = new Set(book.activities.map((a) => a.id));
  book.activities.forEach((a, i) => {
    if (!categories.has(a.category))
      errors.push(`${file}: activities[${i}].category: there is no “${a.category}”`);
  });
  const seen = new Set<string>();
  book.scores.forEach((s, i) => {
    if (!activities.has(s.activity))
      errors.push(`${file}: scores[${i}].activity: there is no “${s.activity}”`);
    const key = JSON.stringify([s.student, s.activity]);
    if (seen.has(key)) errors.push(`${file}: scores[${i}]: “${s.student}” has “${s.activity}” twice`);
    seen.add(key);
  });
  if (errors.length > 0) throw new InputError(errors);
}

/** `grades`: standing, possible grades and completion of each student as of an instant, one JSON object a line. */
export function gradesCommand(file: string, asOf: Instant): string {
  const data = parse(file);
  check(file, data);
  const book: Gradebook = {
    policy: data.policy,
    // The file has no late penalty, so no day is counted by a local clock.
    zone: 'UTC',
    categories: data.categories.map((c) => ({ id: c.id, weight: c.weight, dropLowest: c.drop_lowest })),
    activities: data.activities.map((a) => ({ ...a, due: toInstant(a.due) })),
  };
  const byStudent = new Map<string, Map<string, Score>>();
  for (const { student, ...score } of data.scores) {
    const scores = byStudent.get(student) ?? new Map<string, Score>();
    byStudent.set(student, scores);
    scores.set(score.activity, {
      ...score,
      submitted: toInstant(score.submitted),
      returned: toInstant(score.returned),
    });
  }
  return [...byStudent]
    .sort(([a], [b]) => byCode(a, b))
    .map(([student, scores]) => {
      const grade = standing(book, scores, asOf);
      const { done, expected } = completion(book.activities, scores, asOf);
      return `${JSON.stringify({
        student,
        standing: grade.standing,
        lowest_possible: grade.lowestPossible,
        highest_possible: grade.highestPossible,
        done,
        expected,
      })}\n`;
    })
    .join('');
}

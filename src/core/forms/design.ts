import * as yup from 'yup';
import { bandWords, marksFault } from '../plans/bands';
import {
  ATTEMPT_CHOICES,
  DESIGN_LIMITS,
  DESIGN_STEP_KINDS,
  HAND_OUTS,
  STEP_ORDERS,
  STEP_SETS,
  type DesignStep,
  type PlanDesign,
  type StepGroup,
} from '../plans/design';
import type { PlanPart } from '../plans/plan';
import { SECTION_MARKS, type SectionMark } from '../plans/preCheck';
import { idNumber, maybeId, maybeInstant, name, part, whole } from './rules';

const oneOf = <T extends string>(words: readonly T[]) => yup.mixed<T>().oneOf(words).required();
const id = yup
  .string()
  .matches(/^[\w-]{1,60}$/, 'An id of a part is none.')
  .required();

const rule = part({
  kind: oneOf(['all', 'any', 'one set']),
  n: yup.number().integer().min(1, 'Any so many of them: at least 1.').max(DESIGN_LIMITS.steps),
}).test('n', 'Say how many of the steps are enough.', (r) => r.kind !== 'any' || r.n != null);

const stepParts = part({
  id,
  kind: oneOf(DESIGN_STEP_KINDS),
  activityId: maybeId.defined(),
  outcomeId: maybeId.defined(),
  title: yup.string().max(200, 'A step’s title is over 200 characters.').defined(),
  minutes: whole('A step’s minutes', 1, 1000),
  set: oneOf(STEP_SETS),
  lesson: yup
    .object({
      at: maybeInstant.nonNullable('A lesson has no time.').required('A lesson has no time.'),
      place: yup.string().max(200).defined(),
    })
    .nullable()
    .defined(),
});

const step = stepParts.test({
  name: 'whole',
  test(value) {
    // What is not whole says so itself.
    if (!stepParts.isValidSync(value, { strict: true })) return true;
    const fault = stepFault(value as DesignStep);
    return fault == null ? true : this.createError({ message: fault });
  },
});

/** What a step lacks, in words; null if nothing. */
function stepFault({ kind, activityId, outcomeId, title, lesson }: DesignStep): string | null {
  if ((kind === 'activity' || kind === 'attempt') && activityId == null) return 'A step has no activity.';
  if (kind === 'practice') return outcomeId == null ? 'A step of practice has no outcome.' : null;
  if (kind === 'lesson' && lesson == null) return 'A lesson has no time.';
  return kind !== 'activity' && kind !== 'attempt' && title.trim() === '' ? 'A step has no title.' : null;
}

const group = {
  id,
  rule,
  order: oneOf(STEP_ORDERS),
  steps: yup
    .array(step)
    .max(DESIGN_LIMITS.steps, `A part has at most ${DESIGN_LIMITS.steps} steps.`)
    .required(),
};

/** What the rule of a part cannot be kept by, in words; null if it can. */
function groupFault({ rule: { kind, ...rest }, steps }: StepGroup): string | null {
  if (steps.length === 0) return null;
  if (kind === 'any' && 'n' in rest && rest.n > steps.length)
    return `Any ${rest.n} of ${steps.length} steps cannot be done.`;
  if (kind === 'one set' && new Set(steps.map((s) => s.set)).size < 2)
    return 'One of two sets needs a step in each.';
  return null;
}

const branch = part({
  quizId: idNumber,
  attempt: oneOf(ATTEMPT_CHOICES),
  marks: yup
    .array(yup.number().required())
    .max(DESIGN_LIMITS.marks, `A branch has at most ${DESIGN_LIMITS.marks} marks.`)
    .required()
    .test(
      'marks',
      ({ value }) => (Array.isArray(value) ? marksFault(value as number[]) : null) ?? '',
      (marks) => !Array.isArray(marks) || marksFault(marks) == null,
    ),
  lanes: yup.array(part(group)).required(),
}).test(
  'lanes',
  'There is one lane more than there are marks.',
  (b) => !Array.isArray(b?.lanes) || !Array.isArray(b.marks) || b.lanes.length === b.marks.length + 1,
);

const parted = part({
  title: name('The title', 120),
  purpose: yup.string().max(500, 'What it is for is longer than 500 characters.').defined(),
  preCheckId: maybeId.defined(),
  sections: yup
    .array(
      part({
        ...group,
        outcomeId: maybeId.defined(),
        purpose: yup.string().max(300, 'What a section is for is longer than 300 characters.').defined(),
        items: yup.array(yup.string().max(200).required()).max(200).required(),
      }),
    )
    .max(DESIGN_LIMITS.sections, `A plan has at most ${DESIGN_LIMITS.sections} sections.`)
    .required(),
  branch: branch.nullable().defined(),
  handOut: oneOf(HAND_OUTS),
});

const shape = parted.test({
  name: 'design',
  test(value) {
    // What is not whole says so itself.
    if (!parted.isValidSync(value, { strict: true })) return true;
    const fault = designFault(value as unknown as PlanDesign);
    return fault == null ? true : this.createError({ message: fault });
  },
});

function designFault({ sections, branch: b }: PlanDesign): string | null {
  const groups: readonly StepGroup[] = [...sections, ...(b?.lanes ?? [])];
  const fault = groups.map(groupFault).find((f) => f != null);
  if (fault) return fault;
  const ids = groups.map((g) => g.id);
  const twice = groups.some((g) => new Set(g.steps.map((s) => s.id)).size < g.steps.length);
  return twice || new Set(ids).size < ids.length ? 'Two parts or steps of the plan have one id.' : null;
}

/** A plan design as it is written: it may lack steps still. What it lets through is one, which the library cannot tell. */
export const designForm = shape as unknown as yup.Schema<PlanDesign>;

/** Reads a design as it is kept; what is wrong in it is an error of Yup. */
export const readDesign = (value: unknown): PlanDesign => designForm.validateSync(value, { strict: true });

/** What keeps a design that can be written down from being switched on, in words; null if nothing. */
export function switchFault({ sections, branch: b }: PlanDesign): string | null {
  const empty = sections.find((s) => s.steps.length === 0);
  if (empty) return 'A section has no step.';
  if (sections.length === 0 && b == null) return 'The plan has no step.';
  if (!b) return null;
  const bare = b.lanes.findIndex((lane) => lane.steps.length === 0);
  return bare < 0 ? null : `The band “${bandWords(bare, b.marks, null)}” has no step.`;
}

const parts = yup
  .array(
    part({
      key: yup.string().required(),
      title: yup.string().defined(),
      purpose: yup.string().defined(),
      mark: yup
        .mixed<SectionMark>((v): v is SectionMark => SECTION_MARKS.some((m) => m === v))
        .nullable()
        .defined(),
      rule,
      order: oneOf(STEP_ORDERS),
    }),
  )
  .required();
/** Reads the parts of a plan as they are kept. */
export const readPlanParts = (value: unknown): PlanPart[] =>
  parts.validateSync(value, { strict: true }) as unknown as PlanPart[];

import * as yup from 'yup';
import { readSelection } from '../rules/selectionSchema';
import { testsIn, type Selection } from '../rules/selection';
import { idNumber, maybeId, name } from './rules';

/** Rows of a condition, and groups within groups, that anybody can still read. */
const MOST_TESTS = 40;
const MOST_DEEP = 6;

const depth = (s: Selection): number =>
  'all' in s
    ? 1 + Math.max(0, ...s.all.map(depth))
    : 'any' in s
      ? 1 + Math.max(0, ...s.any.map(depth))
      : 'not' in s
        ? depth(s.not)
        : 0;

function whereFault(value: unknown): string | undefined {
  try {
    const where = readSelection(value);
    if (testsIn(where).length > MOST_TESTS) return `A condition has at most ${MOST_TESTS} rows.`;
    return depth(where) > MOST_DEEP ? `Groups stand at most ${MOST_DEEP} deep in one another.` : undefined;
  } catch (error) {
    if (error instanceof yup.ValidationError) return `The condition is not whole: ${error.message}.`;
    throw error;
  }
}

/** A condition on the traits of students. */
export const whereForm = yup
  .mixed<Selection>((value): value is Selection => typeof value === 'object' && value !== null)
  .required('There is no condition.')
  .test(
    'condition',
    ({ value }) => whereFault(value) ?? '',
    (value) => whereFault(value) == null,
  );

const people = yup.array(idNumber).max(5000).defined();

/** An audience under its name. */
export const audienceForm = yup.object({
  id: maybeId.defined(),
  name: name('The name', 80),
  where: whereForm,
  added: people,
  removed: people,
});
export type AudienceForm = yup.InferType<typeof audienceForm>;

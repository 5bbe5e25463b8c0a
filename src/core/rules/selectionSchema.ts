import * as yup from 'yup';
import type { Compared, Selection } from './selection';

const WORDS = ['<', '<=', '>', '>=', '=', 'between', 'in', 'known', 'lowest', 'highest'] as const;

const figure = yup.number().typeError('${path} is no number').required('${path} is missing');
const percent = figure.min(0, '${path} is under 0').max(100, '${path} is over 100');
const isCompared = (value: unknown): value is Compared =>
  typeof value === 'string' || typeof value === 'number';
const compared = yup
  .mixed<Compared>(isCompared)
  .typeError('${path} is neither a number nor text')
  .required('${path} is missing');
const measure = yup.string().typeError('${path} is no text').required('${path} is missing');
const is = yup.string().oneOf(WORDS, '${path} is none of ${values}').required('${path} is missing');

const only = (shape: yup.ObjectShape) => yup.object(shape).noUnknown('${path} does not take ${unknown}');

/** The parts of a test, by how it compares. */
const TESTS: Readonly<Record<(typeof WORDS)[number], yup.Schema>> = {
  '<': only({ measure, is, value: figure }),
  '<=': only({ measure, is, value: figure }),
  '>': only({ measure, is, value: figure }),
  '>=': only({ measure, is, value: figure }),
  '=': only({ measure, is, value: compared }),
  between: only({ measure, is, value: figure, to: figure }),
  in: only({
    measure,
    is,
    value: yup.array(compared).typeError('${path} is no list').required('${path} is missing'),
  }),
  known: only({ measure, is }),
  lowest: only({ measure, is, percent, after: percent.optional().default(undefined) }),
  highest: only({ measure, is, percent, after: percent.optional().default(undefined) }),
};

const list = (): yup.Schema =>
  yup.array(yup.lazy(node)).typeError('${path} is no list').required('${path} is missing');

function node(value: unknown): yup.Schema {
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    return yup.mixed().test('condition', '${path} is no condition', () => false);
  if ('all' in value) return only({ all: list() });
  if ('any' in value) return only({ any: list() });
  if ('not' in value) return only({ not: yup.lazy(node) });
  const word = 'is' in value ? WORDS.find((w) => w === value.is) : undefined;
  return word ? TESTS[word] : yup.object({ measure, is });
}

/** Reads a condition on the columns of a table; what is wrong in it is named by where it stands, as in `all[1].value`. */
export function readSelection(value: unknown): Selection {
  return node(value).validateSync(value, { strict: true }) as Selection;
}

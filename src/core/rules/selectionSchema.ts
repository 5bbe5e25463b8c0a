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

/** Values of one list, conditions within one another, and conditions in all. */
export const SELECTION_LIMITS = { list: 1000, deep: 40, nodes: 2000 } as const;

/** What of a condition is too much to be read at all; null if nothing is. Looks at no more than the limits allow. */
function excess(value: unknown): string | null {
  const open: { readonly value: unknown; readonly deep: number }[] = [{ value, deep: 1 }];
  let nodes = 0;
  for (let next = open.pop(); next; next = open.pop()) {
    const { value: part, deep } = next;
    if (typeof part !== 'object' || part === null) continue;
    if (Array.isArray(part) && part.length > SELECTION_LIMITS.list)
      return `a list in it has more than ${SELECTION_LIMITS.list} values`;
    if (!Array.isArray(part) && ++nodes > SELECTION_LIMITS.nodes)
      return `it has more than ${SELECTION_LIMITS.nodes} parts`;
    if (deep > 2 * SELECTION_LIMITS.deep) return `it is more than ${SELECTION_LIMITS.deep} levels deep`;
    for (const inner of Object.values(part)) open.push({ value: inner, deep: deep + 1 });
  }
  return null;
}

/** Conditions that were read: a form asks for the same one several times. */
const read = new WeakSet<object>();

/** Reads a condition on the columns of a table; what is wrong in it is named by where it stands, as in `all[1].value`. */
export function readSelection(value: unknown): Selection {
  if (typeof value === 'object' && value !== null && read.has(value)) return value as Selection;
  const tooMuch = excess(value);
  if (tooMuch) throw new yup.ValidationError(tooMuch, value, '');
  const selection = node(value).validateSync(value, { strict: true }) as Selection;
  read.add(selection);
  return selection;
}

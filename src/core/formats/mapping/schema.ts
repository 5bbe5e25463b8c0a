import * as yup from 'yup';
import { DAY_ORDERS, NAME_PARTS, SHAPES, type FieldSource, type Mapping } from '../../course/mapping';

const name = () => yup.string().max(500).required();
const fieldSource = yup.lazy((value: unknown) => {
  const from = value && typeof value === 'object' && 'from' in value ? value.from : null;
  return from === 'text'
    ? yup
        .object({ from: yup.string().oneOf(['text']).required(), text: yup.string().max(500).defined() })
        .noUnknown()
    : yup
        .object({
          from: yup.string().oneOf(['column']).required(),
          column: name(),
          part: yup
            .string()
            .oneOf([...NAME_PARTS])
            .required(),
        })
        .noUnknown();
});

/** An object whose names are not known before, each value checked by `of`. */
const byName = <T>(of: (value: unknown) => T) =>
  yup
    .mixed<Readonly<Record<string, T>>>()
    .required()
    .test('by name', 'is not an object of up to 500 names', (value) => {
      if (typeof value !== 'object' || Array.isArray(value)) return false;
      const entries = Object.entries(value as object);
      return entries.length <= 500 && entries.every(([key, v]) => key.length <= 500 && isValid(() => of(v)));
    });

function isValid(check: () => unknown): boolean {
  try {
    check();
    return true;
  } catch {
    return false;
  }
}

const words = yup.string().max(500).defined();

/** A mapping from outside: from a form, from a ticket on disk, or from the database. */
export const mappingSchema = yup.object({
  shape: yup
    .string()
    .oneOf([...SHAPES])
    .required(),
  fields: byName((v) => fieldSource.validateSync(v, { strict: true }) as FieldSource),
  spread: yup
    .array(yup.object({ column: name(), to: name() }).noUnknown().required())
    .max(1000)
    .required(),
  days: yup
    .string()
    .oneOf([...DAY_ORDERS])
    .required(),
  zone: name(),
  words: byName((v) =>
    byName((w) => words.validateSync(w, { strict: true })).validateSync(v, { strict: true }),
  ),
}) satisfies yup.ISchema<Mapping>;

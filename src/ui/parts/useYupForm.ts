'use client';
import {
  useForm,
  type DefaultValues,
  type FieldValues,
  type Resolver,
  type UseFormReturn,
} from 'react-hook-form';
import type * as yup from 'yup';

/**
 * A form whose one schema checks it here, as it checks it again where it is stored. What is wrong is said below its field,
 * once somebody has tried to save; strict, so that nothing is turned into something else on the way.
 *
 * @param load brings the schema, once there is something to check: a page that only shows a form does not wait for it
 * @param mode when a field is first checked: as somebody types, or once they save
 */
export function useYupForm<F extends FieldValues>(
  load: () => Promise<yup.ObjectSchema<F>>,
  start: F,
  mode: 'onChange' | 'onSubmit' = 'onSubmit',
): UseFormReturn<F, unknown, F> {
  const resolver: Resolver<F, unknown, F> = async (values, context, options) => {
    const checks = await Promise.all([import('@hookform/resolvers/yup'), load()]).catch(() => null);
    // Where it cannot be fetched, what stores the form says what is wrong with it.
    if (!checks) return { values, errors: {} };
    const [{ yupResolver }, schema] = checks;
    // The library asks for the values of the schema's input, which to it may be looser than what goes into a form here.
    const check = yupResolver(schema as yup.ObjectSchema<FieldValues>, { strict: true, abortEarly: false });
    return (check as unknown as Resolver<F, unknown, F>)(values, context, options);
  };
  return useForm<F, unknown, F>({ mode, defaultValues: start as DefaultValues<F>, resolver });
}

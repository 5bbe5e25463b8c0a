'use client';
import { yupResolver } from '@hookform/resolvers/yup';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import * as yup from 'yup';
import { Awake } from '../parts/Awake';
import { Button } from '../parts/Button';
import { Field, TextInput } from '../parts/Field';
import { Wordmark } from '../parts/Wordmark';
import { Panel } from '../parts/Panel';
import { useAlive } from '../parts/useAlive';

const schema = yup.object({
  email: yup.string().trim().email('Write the address in full.').required('Write your e-mail address.'),
  password: yup.string().required('Write your password.'),
});

/** What went wrong with signing in, in words that help and give nothing away. */
function failure(status: number): string {
  if (status === 401) return 'This address and password do not belong together.';
  if (status === 429) return 'Too many tries. Wait a minute and try again.';
  return 'The server did not answer as it should. Try again in a moment.';
}

export function SignIn() {
  const alive = useAlive();
  const [error, setError] = useState<string | null>(null);
  const { register, handleSubmit, formState } = useForm({ resolver: yupResolver(schema) });
  const submit = handleSubmit(async (values) => {
    setError(null);
    const response = await fetch('/api/auth/sign-in/email', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(values),
    }).catch(() => null);
    // A full load: nothing that was fetched as somebody else may stay in the page.
    // eslint-disable-next-line @next/next/no-location-assign-relative-destination
    if (response?.ok) window.location.assign('/');
    else setError(response ? failure(response.status) : 'The server could not be reached.');
  });
  const { errors, isSubmitting } = formState;
  return (
    <main className="grid min-h-screen place-items-center p-6">
      <Awake />
      <Panel className="w-full max-w-sm p-6">
        <p className="mb-5 flex items-center gap-2.5">
          <Wordmark large />
        </p>
        <h1 className="font-serif mb-4 text-2xl leading-tight font-semibold">See who needs you now</h1>
        <form method="post" onSubmit={submit} noValidate>
          <fieldset disabled={!alive} className="space-y-4">
            <Field label="E-mail address" error={errors.email?.message}>
              {(ids) => <TextInput type="email" autoComplete="username" {...ids} {...register('email')} />}
            </Field>
            <Field label="Password" error={errors.password?.message}>
              {(ids) => (
                <TextInput
                  type="password"
                  autoComplete="current-password"
                  {...ids}
                  {...register('password')}
                />
              )}
            </Field>
            {error ? (
              <p role="alert" className="text-plum">
                {error}
              </p>
            ) : null}
            <Button type="submit" look="main" className="w-full" disabled={isSubmitting}>
              {isSubmitting ? 'Signing in …' : 'Sign in'}
            </Button>
          </fieldset>
        </form>
      </Panel>
    </main>
  );
}

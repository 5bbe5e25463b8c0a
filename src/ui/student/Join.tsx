'use client';
import { useState } from 'react';
import { joinCourseAction } from '@/actions/setup';
import { Button } from '../parts/Button';
import { Field, TextInput } from '../parts/Field';
import { useAct } from '../parts/useAct';

/** Joins a course by the code that its instructor gave out. */
export function Join() {
  const [joinCode, setCode] = useState('');
  const { busy, act } = useAct();
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        act(() => joinCourseAction({ joinCode }), {
          done: (title) => `You are in ${title}`,
          then: () => setCode(''),
        });
      }}
    >
      <Field label="Join a course by its code">
        {(ids) => (
          <TextInput {...ids} value={joinCode} autoComplete="off" onChange={(e) => setCode(e.target.value)} />
        )}
      </Field>
      <Button type="submit" disabled={busy || joinCode.trim() === ''}>
        Join
      </Button>
    </form>
  );
}

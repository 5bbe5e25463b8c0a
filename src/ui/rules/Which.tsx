'use client';
import { useRouter } from 'next/navigation';
import { Chips } from '../parts/Chips';

/** The two sorts of rules of a course: those that raise flags in Rounds, and those that write unasked. */
export function Which({ code, shows }: { readonly code: string; readonly shows: 'flags' | 'rules' }) {
  const router = useRouter();
  return (
    <Chips
      label="Flags or rules"
      value={shows}
      options={[
        { value: 'flags', label: 'What raises a flag' },
        { value: 'rules', label: 'What is written unasked' },
      ]}
      onChange={(next) => router.push(`/c/${code}/rules${next === 'flags' ? '/flags' : ''}`)}
    />
  );
}

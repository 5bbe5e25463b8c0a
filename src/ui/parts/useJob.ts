'use client';
import { useEffect, useState } from 'react';
import type { JobView } from '@/core/views/job';

const ASK_EVERY_MS = 400;

const LOST: JobView<never> = {
  state: 'failed',
  step: '',
  done: 0,
  of: 0,
  value: null,
  message: 'Nothing is known of this job any more. Reload the page to see whether it was done.',
};

/**
 * Follows a long piece of work until it ends, and lets it be cancelled.
 *
 * @param address where the job is asked for; null for none
 * @param read makes the value of what the server answered
 */
export function useJob<T>(
  address: string | null,
  read: (value: unknown) => Promise<T>,
  onEnd: (job: JobView<T>) => void,
): { job: JobView<T> | null; cancel: () => void } {
  const [job, setJob] = useState<JobView<T> | null>(null);
  useEffect(() => {
    if (!address) return;
    let stopped = false;
    let timer: ReturnType<typeof setTimeout>;
    const end = (last: JobView<T>) => {
      setJob(null);
      onEnd(last);
    };
    const look = async () => {
      try {
        const response = await fetch(address);
        if (stopped) return;
        if (response.status === 404) return end(LOST);
        const answer: unknown = await response.json();
        const { jobSchema } = await import('./jobAnswer');
        const now = jobSchema.validateSync(answer);
        const value = now.state === 'done' ? await read((answer as { value?: unknown }).value) : null;
        if (stopped) return;
        const next = { ...now, value };
        if (now.state !== 'running') return end(next);
        setJob(next);
      } catch {
        // A look that fails says nothing about the job; the next may get through.
      }
      if (!stopped) timer = setTimeout(() => void look(), ASK_EVERY_MS);
    };
    void look();
    return () => {
      stopped = true;
      clearTimeout(timer);
    };
    // A job is followed once; what is done at its end may be made anew with each drawing.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [address]);
  const cancel = () => {
    if (address) void fetch(address, { method: 'DELETE' });
  };
  return { job, cancel };
}

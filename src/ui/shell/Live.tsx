'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';

const POLL_MS = 15_000;

/** Keeps an open view up to date: reads it again when something new came in. Polls where a stream cannot be had. */
export function Live({ code }: { readonly code: string }) {
  const router = useRouter();
  const [state, setState] = useState<'starting' | 'live' | 'polling'>('starting');
  useEffect(() => {
    let last: string | null = null;
    let timer: ReturnType<typeof setInterval> | undefined;
    const take = (version: string) => {
      if (last != null && version !== last) router.refresh();
      last = version;
    };
    const poll = async () => {
      const response = await fetch(`/api/courses/${code}/live?once=1`).catch(() => null);
      if (!response?.ok) return;
      const found: unknown = await response.json().catch(() => null);
      if (found && typeof found === 'object' && 'version' in found && typeof found.version === 'string')
        take(found.version);
    };
    const source = new EventSource(`/api/courses/${code}/live`);
    source.onmessage = (event) => {
      clearInterval(timer);
      timer = undefined;
      setState('live');
      take(String(event.data));
    };
    source.onerror = () => {
      setState('polling');
      if (timer) return;
      timer = setInterval(() => void poll(), POLL_MS);
      void poll();
    };
    return () => {
      source.close();
      clearInterval(timer);
    };
  }, [code, router]);
  return (
    <span role="status" className="block min-h-8">
      {state === 'live'
        ? '● live: what comes in shows by itself'
        : state === 'polling'
          ? '○ looks every 15 seconds'
          : ''}
    </span>
  );
}

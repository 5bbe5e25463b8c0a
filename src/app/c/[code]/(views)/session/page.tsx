import type { Metadata } from 'next';
import { sessionView } from '@/server/look/session';
import { SessionCheck } from '@/ui/session/SessionCheck';
import { page } from '../../../../page-guard';
import { askedScope, oneOf, wholeNumber, type PageProps } from '../../../../query';

export const metadata: Metadata = { title: 'Session check' };

export default async function SessionPage({ params, searchParams }: PageProps<{ code: string }>) {
  const { code } = await params;
  const query = await searchParams;
  const meeting = oneOf(query.meeting);
  const view = await page((viewer) =>
    sessionView(viewer, code, {
      ...askedScope(query),
      back: wholeNumber(query.back),
      meeting: meeting && /^\d{10,14}$/.test(meeting) ? Number(meeting) : undefined,
      student: wholeNumber(query.student),
    }),
  );
  return <SessionCheck view={view} />;
}

import type { Metadata } from 'next';
import { courseMessages } from '@/server/act/messages';
import { requireCourse } from '@/server/access/viewer';
import { MessageList } from '@/ui/messages/MessageList';
import { page } from '../../../../page-guard';

export const metadata: Metadata = { title: 'Messages' };

interface Props {
  readonly params: Promise<{ code: string }>;
  readonly searchParams: Promise<{ before?: string | string[] }>;
}

export default async function MessagesPage({ params, searchParams }: Props) {
  const { code } = await params;
  const { before } = await searchParams;
  const from = typeof before === 'string' && /^\d{1,9}$/.test(before) ? Number(before) : undefined;
  const { zone, messages } = await page(async (viewer) => ({
    zone: (await requireCourse(viewer, 'look', code)).zone,
    messages: await courseMessages(viewer, code, from),
  }));
  return <MessageList code={code} zone={zone} page={messages} />;
}

import { planFeed } from '@/server/act/planFeed';
import { reportFailure } from '@/server/base/failure';

/** Somebody's plans as a calendar (RFC 5545), for whoever has its private address: calendars sign in nowhere. */
export async function GET(_: Request, { params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  try {
    const text = await planFeed(token.replace(/\.ics$/, ''));
    if (text == null) return new Response('There is no such calendar.', { status: 404 });
    return new Response(text, {
      headers: {
        'content-type': 'text/calendar; charset=utf-8',
        'cache-control': 'private, no-store',
        'x-robots-tag': 'noindex',
      },
    });
  } catch (error) {
    reportFailure('plan feed', error);
    return new Response('The calendar could not be made. Try again later.', { status: 500 });
  }
}

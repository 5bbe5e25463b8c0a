import { LOOK_EVERY_MS, watchCourse } from '@/server/look/live';
import { answer } from '../../../answer';

export const dynamic = 'force-dynamic';

/** Streams open at once; a browser with more tabs than this asks every few seconds instead. */
const MOST_STREAMS = 200;
/** A stream ends after this long and the page opens another: who was signed out meanwhile gets none. */
const LONGEST_MS = 10 * 60_000;
/** On the global object: a handler may be loaded more than once. */
const holder = globalThis as typeof globalThis & { lanternStreams?: number };
const open = (by: number): number => (holder.lanternStreams = (holder.lanternStreams ?? 0) + by);

/** Says when something new of a course came in, as server-sent events; or once, for a page that polls (`?once=1`). */
export async function GET(request: Request, { params }: { params: Promise<{ code: string }> }) {
  return answer(request, async (viewer) => {
    const { code } = await params;
    const version = await watchCourse(viewer, code);
    if (new URL(request.url).searchParams.get('once') === '1')
      return Response.json({ version: await version() }, { headers: { 'cache-control': 'no-store' } });
    if (open(0) >= MOST_STREAMS) return new Response(null, { status: 503 });
    open(1);
    const encoder = new TextEncoder();
    const opened = performance.now();
    let timer: ReturnType<typeof setTimeout> | undefined;
    let ended = false;
    const end = (controller?: ReadableStreamDefaultController) => {
      if (ended) return;
      ended = true;
      open(-1);
      clearTimeout(timer);
      try {
        controller?.close();
      } catch {
        // The reader has gone already.
      }
    };
    const body = new ReadableStream({
      start(controller) {
        let last = '';
        const look = async () => {
          if (ended) return;
          if (performance.now() - opened > LONGEST_MS) return end(controller);
          try {
            const now = await version();
            if (ended) return;
            controller.enqueue(encoder.encode(now === last ? ': still here\n\n' : `data: ${now}\n\n`));
            last = now;
          } catch {
            return end(controller);
          }
          timer = setTimeout(look, LOOK_EVERY_MS);
        };
        request.signal.addEventListener('abort', () => end(controller));
        void look();
      },
      cancel: () => end(),
    });
    return new Response(body, {
      headers: {
        'content-type': 'text/event-stream',
        'cache-control': 'no-store',
        'x-accel-buffering': 'no',
      },
    });
  });
}

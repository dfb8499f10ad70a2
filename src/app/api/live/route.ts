import { answering } from '@/app/http/answer';
import { actorFrom, requireActor } from '@/server/auth/actorFrom';
import { listenFor } from '@/server/live/hub';

/** A line is sent this often, so that nothing on the way takes the connection for dead; the session is looked at, too. */
const beatMs = 25_000;

/**
 * Server-sent events: one each time something has changed that the person may see. It says only whether it was papers
 * alone.
 */
export function GET(request: Request): Promise<Response> {
  return answering('/api/live', async () => {
    const actor = await requireActor(request.headers);
    const text = new TextEncoder();
    let end: () => void = () => undefined;
    const stream = new ReadableStream<Uint8Array>({
      start(controller) {
        const send = (words: string) => {
          try {
            controller.enqueue(text.encode(words));
          } catch {
            end();
          }
        };
        const stop = listenFor(
          actor,
          (changed) => send(`event: changed\ndata: ${changed}\n\n`),
          () => end(),
        );
        const beat = setInterval(() => {
          actorFrom(request.headers).then(
            (still) => (still ? send(':\n\n') : end()),
            () => end(),
          );
        }, beatMs);
        end = () => {
          stop();
          clearInterval(beat);
          end = () => undefined;
          try {
            controller.close();
          } catch {
            // The browser has gone already.
          }
        };
        request.signal.addEventListener('abort', () => end());
        send(':\n\n');
      },
      cancel() {
        end();
      },
    });
    return new Response(stream, {
      headers: {
        'content-type': 'text/event-stream; charset=utf-8',
        'cache-control': 'no-store, no-transform',
        'x-accel-buffering': 'no',
        // Else the browser would come back by it while the process is stopping, which keeps it from that.
        connection: 'close',
      },
    });
  });
}

import { readFile } from 'node:fs/promises';
import path from 'node:path';

/** The service worker of issued packs, bundled with the processes. From source there is none, and nothing is kept. */
export async function GET(): Promise<Response> {
  const bundled = process.env['EMBRIN_PROCESSES'];
  const script =
    bundled === undefined ? null : await readFile(path.join(bundled, 'offline', 'worker.js')).catch(() => null);
  if (script === null) return new Response(null, { status: 404 });
  return new Response(new Uint8Array(script), {
    headers: { 'content-type': 'text/javascript; charset=utf-8', 'cache-control': 'no-cache' },
  });
}

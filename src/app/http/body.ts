import { refuse } from '@/core/errors/refusal';

/** The most that a form or a question comes to, in bytes. */
const mostByDefault = 4_000_000;

/**
 * The body of a request as text, of at most so many bytes: it is counted while it comes, and what is more is not waited for.
 * The caller has looked at who asks before.
 */
export async function readText(request: Request, mostBytes = mostByDefault): Promise<string> {
  const tooLarge = () => refuse('too-large', 'The request is too large. Nothing was done.');
  if (Number(request.headers.get('content-length') ?? 0) > mostBytes) tooLarge();
  const pieces: Uint8Array[] = [];
  let length = 0;
  const reader = request.body?.getReader();
  for (;;) {
    const next = await reader?.read();
    if (!next || next.done) break;
    length += next.value.length;
    if (length > mostBytes) {
      await reader?.cancel().catch(() => undefined);
      tooLarge();
    }
    pieces.push(next.value);
  }
  return new TextDecoder().decode(Buffer.concat(pieces));
}

/** The same as JSON, and said to be JSON: what a form of another site can send is not taken. */
export async function readJson(request: Request, mostBytes = mostByDefault): Promise<unknown> {
  const type = request.headers.get('content-type')?.split(';')[0]?.trim().toLowerCase();
  if (type !== 'application/json') refuse('invalid', 'The request has to be JSON. Nothing was done.');
  const text = await readText(request, mostBytes);
  try {
    return JSON.parse(text);
  } catch {
    return refuse('invalid', 'The request could not be read.');
  }
}

/** The fields of a form, each once, as a page of ours sends it. */
export async function readForm(request: Request, mostBytes = mostByDefault): Promise<Record<string, string>> {
  const type = request.headers.get('content-type')?.split(';')[0]?.trim().toLowerCase();
  if (type !== 'application/x-www-form-urlencoded')
    refuse('invalid', 'The request has to be a form. Nothing was done.');
  return Object.fromEntries(new URLSearchParams(await readText(request, mostBytes)));
}

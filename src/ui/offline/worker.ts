/**
 * The service worker of issued packs (W3C Service Workers): what somebody has opened, and may have copies of, can be read on
 * when the connection is lost. Asked first is always the server; what it refuses is forgotten here too.
 */
import { isPart, keptName, mostKept, pageOf, type KeepPack } from './kept';

/** What a service worker has beside what a window has. */
interface WorkerScope {
  readonly location: Location;
  readonly clients: { claim(): Promise<void> };
  skipWaiting(): Promise<void>;
  addEventListener(type: 'install' | 'activate', listener: (event: Waiting) => void): void;
  addEventListener(type: 'message', listener: (event: Told) => void): void;
  addEventListener(type: 'fetch', listener: (event: Fetching) => void): void;
}
interface Waiting {
  waitUntil(work: Promise<unknown>): void;
}
interface Told extends Waiting {
  readonly data: KeepPack;
  readonly ports: readonly MessagePort[];
}
interface Fetching {
  readonly request: Request;
  respondWith(answer: Promise<Response>): void;
}
const scope = globalThis as unknown as WorkerScope;

/** Questions whose answers are kept with a pack. */
const answered = new Set(['pack.read', 'pack.notes']);
/** Statuses that say that somebody may not have it (any more), and not that the library is busy. */
const refused = new Set([401, 403, 404, 410]);
const bytesOf = (issueId: string): string => `/api/pack/${issueId}`;
const answerOf = (name: string, body: string): string => `/kept/${name}?${encodeURIComponent(body)}`;
const listAddress = '/kept/list';

scope.addEventListener('install', (event) => event.waitUntil(scope.skipWaiting()));
scope.addEventListener('activate', (event) => event.waitUntil(scope.clients.claim()));
scope.addEventListener('message', (event) =>
  event.waitUntil(keep(event.data).then((isKept) => event.ports[0]?.postMessage(isKept))),
);
scope.addEventListener('fetch', (event) => {
  const answer = answerTo(event.request);
  if (answer) event.respondWith(answer);
});

function answerTo(request: Request): Promise<Response> | null {
  const { origin, pathname } = new URL(request.url);
  if (origin !== scope.location.origin) return null;
  const [, kind, issueId] = /^\/(?<kind>api\/pack|issued)\/(?<id>[0-9a-f-]{36})$/u.exec(pathname) ?? [];
  if (request.method === 'GET' && kind === 'api/pack' && issueId !== undefined) return bytes(request, issueId);
  if (request.method === 'GET' && (kind === 'issued' || isPart(request.url)))
    return asKept(request, kind === 'issued' ? pathname : request.url);
  const [, name = ''] = /^\/api\/call\/(?<name>[\w.]+)$/u.exec(pathname) ?? [];
  return request.method === 'POST' && answered.has(name) ? answer(request, name) : null;
}

const kept = (): Promise<Cache> => caches.open(keptName);

/** What the server answers; where it cannot be reached, what is kept under an address. */
async function asKept(request: Request, address: string): Promise<Response> {
  try {
    return await fetch(request);
  } catch (error) {
    const found = await (await kept()).match(address);
    if (found) return found;
    throw error;
  }
}

/** A pack, or a range of it (RFC 9110, 14.2), as its reader asks for it. */
async function bytes(request: Request, issueId: string): Promise<Response> {
  try {
    return await fetch(request);
  } catch (error) {
    const found = await (await kept()).match(bytesOf(issueId));
    if (!found) throw error;
    const [, from, to] = /^bytes=(\d+)-(\d*)$/u.exec(request.headers.get('range') ?? '') ?? [];
    if (from === undefined) return found;
    const whole = await found.blob();
    const end = Math.min(whole.size, to === undefined || to === '' ? whole.size : Number(to) + 1);
    return new Response(whole.slice(Number(from), end), {
      status: 206,
      headers: {
        'content-type': 'application/pdf',
        'content-length': String(end - Number(from)),
        'content-range': `bytes ${from}-${end - 1}/${whole.size}`,
        'accept-ranges': 'bytes',
      },
    });
  }
}

/** What counts of an answer to `pack.read`. */
interface Read {
  readonly state?: string;
  readonly mayTake?: boolean;
  readonly copy?: { readonly sha256: string } | null;
}

/** Whether what is kept is still what its reader may have: the same copy, of which copies may be taken. */
const isStill = ({ state, mayTake, copy }: Read, before: Read | undefined): boolean =>
  state === 'done' && mayTake === true && (before === undefined || before.copy?.sha256 === copy?.sha256);

/** The answer to a question about a pack; kept where the pack is. What is refused, or withdrawn, is forgotten. */
async function answer(request: Request, name: string): Promise<Response> {
  const body = await request.clone().text();
  const issueId = String((JSON.parse(body) as { issueId?: unknown }).issueId);
  try {
    const fresh = await fetch(request);
    const cache = await kept();
    if (!(await cache.match(bytesOf(issueId)))) return fresh;
    const before = (await (await cache.match(answerOf(name, body)))?.json()) as Read | undefined;
    const isThere = fresh.ok && (name !== 'pack.read' || isStill((await fresh.clone().json()) as Read, before));
    if (isThere) await cache.put(answerOf(name, body), fresh.clone());
    else if (fresh.ok || refused.has(fresh.status)) await forget(issueId);
    return fresh;
  } catch (error) {
    const found = await (await kept()).match(answerOf(name, body));
    if (found) return found;
    throw error;
  }
}

interface Listed {
  readonly personId: string;
  /** The latest first. */
  readonly issueIds: readonly string[];
}

/**
 * Keeps a pack that somebody has opened, in place of the one that was opened longest ago. Another person's are forgotten.
 * Returns whether it is kept.
 */
async function keep({ issueId, personId, from, addresses, answers }: KeepPack): Promise<boolean> {
  const before = (await (await (await kept()).match(listAddress))?.json()) as Listed | undefined;
  if (before && before.personId !== personId) await caches.delete(keptName);
  const cache = await kept();
  const content = await fetch(from);
  if (!content.ok) return false;
  await cache.put(bytesOf(issueId), content);
  for (const { name, input, told } of answers)
    await cache.put(answerOf(name, JSON.stringify(input)), Response.json(told));
  const others = before?.personId === personId ? before.issueIds.filter((each) => each !== issueId) : [];
  const issueIds = [issueId, ...others].slice(0, mostKept);
  for (const each of others.slice(mostKept - 1)) await forget(each);
  // The pages of all of them anew: after an update they are made of other parts, and the former ones go.
  for (const each of issueIds) {
    const page = await fetch(pageOf(each));
    if (page.ok && !page.redirected) await cache.put(pageOf(each), page);
    else await forget(each);
  }
  const parts = new Set(addresses);
  for (const { url } of await cache.keys()) if (isPart(url) && !parts.has(url)) await cache.delete(url);
  await Promise.all(
    addresses.map(async (address) => {
      if (!(await cache.match(address))) await cache.add(address).catch(() => undefined);
    }),
  );
  await cache.put(listAddress, Response.json({ personId, issueIds } satisfies Listed));
  return true;
}

async function forget(issueId: string): Promise<void> {
  const cache = await kept();
  await Promise.all([
    cache.delete(bytesOf(issueId)),
    cache.delete(pageOf(issueId)),
    ...[...answered].map((name) => cache.delete(answerOf(name, JSON.stringify({ issueId })))),
  ]);
}

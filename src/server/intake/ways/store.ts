import path from 'node:path';
import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import { AuthType, createClient, getPatcher, type FileStat, type WebDAVClient } from 'webdav';
import { tidyFileName } from '@/core/files/title';
import { mostInStore, mostScanBytes } from '@/core/intake/wayIn';
import { storable } from '@/core/text/storable';
import { unlocked } from '../../base/locked';
import { sha256Hex } from '../../base/sha256';
import { sniffBytes, sniffKind } from '../../blobs/sniff';
import { db, writableDb } from '../../db/client';
import { storePaper } from '../../db/schema';
import { apart } from '../../db/transaction';
import { keepFetchedFile } from '../keep';
import { leftInWords, NotFetched, type Look, type WayIn } from './model';

/** However much there is, a look comes to its end after so long; what is left is seen to at the next. */
const longestLookMs = 180_000;
/** So many folders are listed at a look at most, one in the other so deep. */
const mostFolders = 2000;
const deepest = 20;
/** A longer answer about one folder is not read. In bytes. */
const mostListBytes = 20_000_000;
/** So much is taken at one look; the next follows at once. */
const mostTaken = 50;

/** The answer was longer than it may be. */
class TooLong extends Error {}

/** An answer of which no more than so much is read, whatever the store says of its length. */
function bounded(response: Response, mostBytes: number): Response {
  let bytes = 0;
  const count = new TransformStream<Uint8Array, Uint8Array>({
    transform(piece, out) {
      bytes += piece.length;
      if (bytes > mostBytes) throw new TooLong();
      out.enqueue(piece);
    },
  });
  const { status, statusText, headers } = response;
  return new Response(response.body?.pipeThrough(count) ?? null, { status, statusText, headers });
}

// The client’s own way of asking would follow a store to another server, with the password, and read answers without end.
getPatcher().patch('fetch', async (...args) => {
  const [address, asked] = args as [string, RequestInit];
  const response = await fetch(address, { ...asked, redirect: 'error' });
  return bounded(response, asked.method === 'PROPFIND' ? mostListBytes : mostScanBytes);
});

interface Lying {
  readonly path: string;
  readonly sizeBytes: number;
  readonly changedAt: Date | null;
  readonly edition: string;
}

/** Lists what lies in a connected store (WebDAV, RFC 4918), and takes what was picked, or all of it where it is followed. It is only read. */
export async function lookAtStore(way: WayIn<'store'>): Promise<Look> {
  const { address, user, follows } = way.settings;
  const password = way.lockedPassword === null ? null : unlocked(way.lockedPassword, 'mailbox password');
  if (password === null) throw new NotFetched('The password is not known any more: give it again.');
  const client = createClient(address, {
    authType: AuthType.Auto,
    username: user,
    password: password.toString('utf8'),
  });
  const signal = AbortSignal.timeout(longestLookMs);
  try {
    const { lying, hasMore } = await listed(client, signal);
    await note(way.id, lying);
    const { taken, large } = await takenFrom(client, way.id, follows, signal);
    const left = [
      hasMore ? `It has more than ${mostInStore.toLocaleString('en')} papers: the others are not seen.` : null,
      leftInWords(large, 'are larger than 256 MB each and are left.'),
    ].filter((each) => each !== null);
    return { taken, reached: null, left: left.join(' ') || null, hasMore: await isMoreWanted(way.id, follows) };
  } catch (error) {
    throw inWords(error, way.settings);
  }
}

/** An answer that no store gives. */
class NoStore extends Error {}

async function folderAt(client: WebDAVClient, at: string, signal: AbortSignal): Promise<FileStat[]> {
  try {
    return (await client.getDirectoryContents(at, { signal })) as FileStat[];
  } catch (error) {
    const { status, cause } = error as { readonly status?: number; readonly cause?: unknown };
    if (status !== undefined || cause !== undefined || error instanceof TooLong || signal.aborted) throw error;
    throw new NoStore('An answer that could not be read', { cause: error });
  }
}

/** All papers of a store, folder by folder. */
async function listed(client: WebDAVClient, signal: AbortSignal) {
  const lying = new Map<string, Lying>();
  const folders: { readonly at: string; readonly depth: number }[] = [{ at: '/', depth: 0 }];
  const seen = new Set<string>();
  for (const { at, depth } of folders) {
    if (seen.has(at) || seen.size >= mostFolders) continue;
    seen.add(at);
    for (const each of await folderAt(client, at, signal)) {
      const name = storable(each.filename);
      if (name.length > 1000 || each.basename.startsWith('.') || !name.startsWith(at)) continue;
      if (each.type === 'directory') {
        if (depth < deepest) folders.push({ at: name, depth: depth + 1 });
        continue;
      }
      if (lying.size >= mostInStore) return { lying, hasMore: true };
      const changed = new Date(each.lastmod);
      lying.set(name, {
        path: name,
        sizeBytes: Number.isSafeInteger(each.size) && each.size >= 0 ? each.size : 0,
        changedAt: Number.isNaN(changed.getTime()) ? null : changed,
        edition: storable(`${each.etag ?? each.lastmod} ${each.size}`).slice(0, 300),
      });
    }
  }
  return { lying, hasMore: false };
}

/** Notes what lies in a store now. What has changed since it was taken can be taken again; what is gone is forgotten. */
const note = (wayInId: string, lying: ReadonlyMap<string, Lying>): Promise<void> =>
  apart(async (tx) => {
    const before = await tx.select().from(storePaper).where(eq(storePaper.wayInId, wayInId));
    const gone = before.filter((each) => !lying.has(each.path)).map((each) => each.path);
    for (let at = 0; at < gone.length; at += 1000)
      await tx
        .delete(storePaper)
        .where(and(eq(storePaper.wayInId, wayInId), inArray(storePaper.path, gone.slice(at, at + 1000))));
    const rows = [...lying.values()].map((each) => ({ ...each, wayInId }));
    for (let at = 0; at < rows.length; at += 1000)
      await tx
        .insert(storePaper)
        .values(rows.slice(at, at + 1000))
        .onConflictDoUpdate({
          target: [storePaper.wayInId, storePaper.path],
          set: {
            sizeBytes: sql`excluded.size_bytes`,
            changedAt: sql`excluded.changed_at`,
            edition: sql`excluded.edition`,
            state: sql`case when ${storePaper.state} = 'taken' and ${storePaper.edition} <> excluded.edition then 'there' else ${storePaper.state} end`,
          },
        });
  });

const wanted = (wayInId: string, follows: boolean) =>
  and(eq(storePaper.wayInId, wayInId), inArray(storePaper.state, follows ? ['picked', 'there'] : ['picked']));

async function takenFrom(client: WebDAVClient, wayInId: string, follows: boolean, signal: AbortSignal) {
  const next = await db()
    .select()
    .from(storePaper)
    .where(wanted(wayInId, follows))
    .orderBy(asc(storePaper.path))
    .limit(mostTaken);
  const large: string[] = [];
  let taken = 0;
  for (const { path: at, sizeBytes, edition } of next) {
    const bytes = sizeBytes > mostScanBytes ? null : await contentOf(client, at, signal);
    if (bytes === null) large.push(path.posix.basename(at));
    else if (bytes !== 'gone' && bytes.length > 0) {
      const fileName = tidyFileName(path.posix.basename(at));
      const kind = await sniffKind(bytes.subarray(0, sniffBytes), fileName);
      const named = { way: 'store' as const, fileName, mediaType: kind?.mediaType ?? 'application/octet-stream' };
      const origin = `${wayInId}/${sha256Hex(JSON.stringify([at, edition]))}`;
      if (await keepFetchedFile(bytes, named, { wayInId, origin })) taken += 1;
    }
    // Whoever dies before this takes it once more, and it is known by its origin.
    await writableDb()
      .update(storePaper)
      .set({ state: 'taken' })
      .where(and(eq(storePaper.wayInId, wayInId), eq(storePaper.path, at), eq(storePaper.edition, edition)));
  }
  return { taken, large };
}

/** The content of a paper; null: it is too large; `gone`: it was taken away since it was listed. */
async function contentOf(client: WebDAVClient, at: string, signal: AbortSignal): Promise<Buffer | null | 'gone'> {
  try {
    return Buffer.from((await client.getFileContents(at, { format: 'binary', signal })) as ArrayBuffer);
  } catch (error) {
    if (error instanceof TooLong) return null;
    if ((error as { readonly status?: number }).status === 404) return 'gone';
    throw error;
  }
}

/** Whether more is to be taken at once: it was more than one look takes, or was picked while that went on. */
async function isMoreWanted(wayInId: string, follows: boolean): Promise<boolean> {
  return (await db().$count(storePaper, wanted(wayInId, follows))) > 0;
}

/** What went wrong between the library and a store, in words for whoever set it up; what is none of that stays as it is. */
function inWords(error: unknown, { address, user }: WayIn<'store'>['settings']): unknown {
  const { host } = new URL(address);
  const { status, name, cause } = error as {
    readonly status?: number;
    readonly name?: string;
    readonly cause?: { readonly code?: string; readonly message?: string };
  };
  if (error instanceof TooLong) return new NotFetched(`${host} says more about one folder than is read.`);
  if (status === 401 || status === 403) return new NotFetched(`${host} does not take the password of ${user}.`);
  if (status === 404) return new NotFetched(`There is no such folder on ${host}.`);
  if (status !== undefined) return new NotFetched(`${host} answers ${status}, which is no folder’s answer.`);
  const code = cause?.code ?? '';
  if (name === 'TimeoutError' || name === 'AbortError') return new NotFetched(`${host} stopped answering.`);
  if (['ECONNREFUSED', 'EHOSTUNREACH', 'ENETUNREACH'].includes(code))
    return new NotFetched(`Nothing answers at ${host}.`);
  if (['ENOTFOUND', 'EAI_AGAIN'].includes(code)) return new NotFetched(`There is no server called ${host}.`);
  if (/CERT|SELF_SIGNED|ALTNAME/u.test(code))
    return new NotFetched(`The certificate of ${host} is not one that can be trusted (${code}).`);
  if (/redirect/iu.test(cause?.message ?? ''))
    return new NotFetched(`${host} sends the library to another address. Give the one that it is sent to.`);
  if (cause !== undefined)
    return new NotFetched(`${host} did not answer as a connected store does. It is asked again at the next look.`);
  return error;
}

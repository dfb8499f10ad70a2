import { createHash, randomBytes } from 'node:crypto';
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { By } from 'selenium-webdriver';
import { eq, inArray, sql } from 'drizzle-orm';
import type { Actor } from '@/server/gate/actor';
import { writableDb } from '@/server/db/client';
import { document, session, upload, version } from '@/server/db/schema';
import { fileBuffer } from '@/demo/file';
import { verifyJournal } from '@/server/journal/verify';
import { renamePlace } from '@/server/places/amend';
import { createFolder, createSeries } from '@/server/places/create';
import { openPlace } from '@/server/places/open';
import { freshLibrary, furnished, passwords } from '../library';
import { type Browser } from './browser';
import { writeTo } from './papers';
import { type WebServer } from './server';
import { begin, end } from './stage';

let keeper: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let server: WebServer;
let browser: Browser;

beforeAll(async () => {
  keeper = await freshLibrary();
  home = await furnished(keeper);
  ({ server, browser } = await begin(keeper));
});

afterAll(() => end());

const arrived = async (): Promise<number> =>
  (await writableDb().select({ bytes: upload.receivedBytes }).from(upload))[0]?.bytes ?? 0;

it('goes on with an upload by itself after the web process was killed in its midst, to the same bytes', async () => {
  const content = Buffer.concat([Buffer.from('%PDF-1.7\n'), randomBytes(150_000_000)]);
  const file = await writeTo(await mkdtemp(path.join(tmpdir(), 'embrin-large-')), 'Long survey.pdf', content);
  await browser.goTo(`${server.url}/place/${home.year.id}`);
  await browser.seesText('belong here');
  await browser.dropFiles(await browser.driver.findElement(By.css('main')), [file]);
  await browser.click('button', /^File 1 paper in/u);
  await browser.until('half of it to arrive', async () => (await arrived()) > content.length / 2);
  await server.end('SIGKILL');
  const kept = await arrived();
  expect(kept).toBeLessThan(content.length);
  expect(await writableDb().select().from(document)).toEqual([]);
  await server.again();
  await browser.seesText('1 of 1 paper filed');
  const [filed] = await writableDb().select({ sha256: version.sha256, sizeBytes: version.sizeBytes }).from(version);
  expect(filed).toEqual({ sha256: createHash('sha256').update(content).digest('hex'), sizeBytes: content.length });
});

it('shows an upload that broke off for good on the desk, to be gone on with or let go', async () => {
  await browser.driver.executeAsyncScript(
    `const [place, done] = arguments;
     const metadata = { placeId: place, fileName: 'Broken off.pdf' };
     const encoded = Object.entries(metadata).map(([name, value]) => name + ' ' + btoa(value)).join(',');
     fetch('/api/uploads', { method: 'POST', headers: { 'tus-resumable': '1.0.0', 'upload-length': '5000000', 'upload-metadata': encoded } })
       .then((made) => fetch(made.headers.get('location'), { method: 'PATCH', headers: { 'tus-resumable': '1.0.0', 'upload-offset': '0', 'content-type': 'application/offset+octet-stream' }, body: new Uint8Array(1000000) }))
       .then(() => done());`,
    home.year.id,
  );
  await browser.goTo(`${server.url}/desk`);
  await browser.seesText('1.0 MB of 5.0 MB have arrived');
  await browser.click('button', 'Discard Broken off.pdf');
  await browser.until('it to be gone', async () => (await arrived()) !== 1_000_000);
});

it('keeps a half-filled form when the session ends, and saves it after signing in again', async () => {
  await browser.goTo(`${server.url}/place/${home.dossier.id}`);
  await browser.click('button', 'New');
  await browser.click('menuitem', 'Folder…');
  await browser.fill('Name', 'Typed before the session ended');
  await writableDb().delete(session);
  await browser.click('button', /^Make the folder/u);
  await browser.seesText('Your session has ended');
  await browser.fill('Password', passwords.keeper);
  await browser.click('button', 'Sign in');
  await browser.until('the folder', async () => {
    const { children } = await openPlace(keeper, { placeId: home.dossier.id });
    return children.some((each) => each.name === 'Typed before the session ended');
  });
});

it('goes on by itself when the database ends all connections while people work', async () => {
  await browser.goTo(`${server.url}/place/${home.dossier.id}`);
  await browser.get('heading', 'Finance');
  await writableDb().execute(
    sql`select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()`,
  );
  await browser.click('link', /Typed before/u);
  await browser.get('heading', 'Typed before the session ended');
});

it('is stopped within seconds while pages are open, and these go on once it is there again', async () => {
  await browser.goTo(`${server.url}/desk`);
  await browser.seesText('Changed lately');
  const from = performance.now();
  await server.end();
  expect(performance.now() - from).toBeLessThan(10_000);
  await server.again();
  await createSeries(keeper, { name: 'Made meanwhile', referencePattern: null });
  await browser.get('link', 'Made meanwhile');
});

it('moves nothing when the web process is killed in mid-move', async () => {
  const from = await createFolder(keeper, { parentId: home.dossier.id, name: 'From here' });
  const to = await createFolder(keeper, { parentId: home.dossier.id, name: 'To there' });
  const papers: string[] = [];
  for (const name of ['one', 'two', 'three'])
    papers.push(await fileBuffer(keeper, from.id, `${name}.txt`, Buffer.from(`${name}\n`)));
  const cookies = await browser.driver.manage().getCookies();
  const cookie = cookies.map(({ name, value }) => `${name}=${value}`).join('; ');
  await writableDb().transaction(async (tx) => {
    // The journal's lock is held: the move has changed its rows and waits to record that, when the process goes.
    await tx.execute(sql`select pg_advisory_xact_lock(7301001)`);
    const moving = fetch(`${server.url}/api/call/papers.move`, {
      method: 'POST',
      headers: { cookie, 'content-type': 'application/json' },
      body: JSON.stringify({ documentIds: papers, toId: to.id }),
    }).catch(() => null);
    await browser.until('the move to wait for the journal', async () => {
      const waiting = await tx.execute(sql`select 1 from pg_locks where locktype = 'advisory' and not granted`);
      return waiting.rows.length > 0;
    });
    await server.end('SIGKILL');
    await moving;
  });
  await server.again();
  const homes = await writableDb()
    .select({ homeId: document.homeId })
    .from(document)
    .where(inArray(document.id, papers));
  expect(homes).toEqual([{ homeId: from.id }, { homeId: from.id }, { homeId: from.id }]);
  expect((await verifyJournal()).brokenAt).toBeNull();
});

it('tells the second of two people who rename one folder, and loses neither', async () => {
  const folder = await createFolder(keeper, { parentId: home.dossier.id, name: 'Shared folder' });
  await browser.goTo(`${server.url}/place/${folder.id}`);
  await browser.click('button', 'This place');
  await browser.click('menuitem', 'Rename…');
  await browser.fill('Name', 'The second name');
  await renamePlace(keeper, { placeId: folder.id, name: 'The first name', revision: folder.revision });
  await browser.click('button', 'Rename it');
  await browser.seesText('Someone else changed this meanwhile. Nothing was overwritten.');
  const field = await browser.get('textbox', 'Name');
  expect(await field.getAttribute('value')).toBe('The second name');
  expect((await openPlace(keeper, { placeId: folder.id })).place.name).toBe('The first name');
});

it('answers ranges, conditions and any file name as the standards have it', async () => {
  const [paper] = await writableDb().select({ id: document.id, sizeBytes: document.sizeBytes }).from(document);
  const cookies = await browser.driver.manage().getCookies();
  const cookie = cookies.map(({ name, value }) => `${name}=${value}`).join('; ');
  const get = (headers: Record<string, string> = {}, query = '') =>
    fetch(`${server.url}/api/paper/${paper?.id}/content${query}`, { headers: { cookie, ...headers } });
  // RFC 9110, sections 14.1.2 (ranges), 14.4 (Content-Range), 15.5.17 (416), 13.1.2 (If-None-Match).
  const first = await get({ range: 'bytes=0-7' });
  expect([first.status, first.headers.get('content-range'), await first.text()]).toEqual([
    206,
    `bytes 0-7/${paper?.sizeBytes}`,
    '%PDF-1.7',
  ]);
  const last = await get({ range: 'bytes=-10' });
  const lengthSaid = ({ headers }: Response) => headers.get('content-length');
  expect([last.status, lengthSaid(last), (await last.arrayBuffer()).byteLength]).toEqual([206, '10', 10]);
  // Section 8.6: how far a download is, and which parts there are, is told by its length.
  const whole = await get();
  expect([whole.status, lengthSaid(whole)]).toEqual([200, String(paper?.sizeBytes)]);
  expect((await whole.arrayBuffer()).byteLength).toBe(paper?.sizeBytes);
  const beyond = await get({ range: `bytes=${(paper?.sizeBytes ?? 0) + 5}-` });
  expect(beyond.status).toBe(416);
  const etag = first.headers.get('etag') ?? '';
  expect((await get({ 'if-none-match': etag, 'cache-control': 'max-age=0' })).status).toBe(304);
  const stale = await get({ range: 'bytes=0-7', 'if-range': '"other"' });
  expect(stale.status).toBe(200);
  await stale.body?.cancel();
  // RFC 6266, section 4.3: a name beyond Latin letters goes in filename*.
  await writableDb().execute(sql`alter table version disable trigger version_never_changes`);
  await writableDb()
    .update(version)
    .set({ fileName: 'Übersicht “Café” 港.pdf' })
    .where(eq(version.documentId, paper?.id ?? ''));
  await writableDb().execute(sql`alter table version enable trigger version_never_changes`);
  const copy = await get({ range: 'bytes=0-0' }, '?copy');
  const [, encoded = ''] =
    /^attachment; filename=".*"; filename\*=UTF-8''(\S+)$/u.exec(copy.headers.get('content-disposition') ?? '') ?? [];
  expect(decodeURIComponent(encoded)).toBe('Übersicht “Café” 港.pdf');
  expect(copy.headers.get('x-content-type-options')).toBe('nosniff');
  expect(copy.headers.get('content-security-policy')).toContain('sandbox');
});

it('does nothing that another site makes the browser send', async () => {
  const cookies = await browser.driver.manage().getCookies();
  const cookie = cookies.map(({ name, value }) => `${name}=${value}`).join('; ');
  const response = await fetch(`${server.url}/api/call/folder.create`, {
    method: 'POST',
    headers: { cookie, origin: 'https://elsewhere.example', 'content-type': 'application/json' },
    body: JSON.stringify({ parentId: home.dossier.id, name: 'Forged' }),
  });
  expect(response.status).toBe(403);
  expect(await response.json()).toMatchObject({ type: '/problems/wrong-origin' });
});

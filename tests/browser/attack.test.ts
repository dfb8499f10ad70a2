import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { request as httpRequest } from 'node:http';
import { eq } from 'drizzle-orm';
import { makers } from '@/demo/papers';
import { fileBuffer } from '@/demo/file';
import { readPaper } from '../reading';
import { createToken } from '@/server/auth/tokens';
import { sha256Hex } from '@/server/base/sha256';
import { writableDb } from '@/server/db/client';
import { document, doorEvent, rateLimit, upload, version } from '@/server/db/schema';
import { openLink } from '@/server/outside/visit';
import { makeLink } from '@/server/outside/links';
import { createFolder } from '@/server/places/create';
import { startUpload } from '@/server/uploads/start';
import { wideWorkbook } from '../attack/bombs';
import { dropLibrary, newcomer, passwords } from '../library';
import { placeOn, say } from '../sheets';
import { enter, type Cast } from './cast';

let cast: Cast;

beforeAll(async () => {
  cast = await enter();
});
afterAll(async () => {
  await cast.server.end();
  await dropLibrary();
});

const call = (name: string, input: unknown, as: string, headers: Record<string, string> = {}) =>
  fetch(`${cast.server.url}/api/call/${name}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', cookie: cast.cookies.get(as) ?? '', ...headers },
    body: JSON.stringify(input),
  });
const get = (path: string, as: string, headers: Record<string, string> = {}) =>
  fetch(`${cast.server.url}${path}`, { headers: { cookie: cast.cookies.get(as) ?? '', ...headers } });

/** The memory of the web process, in megabytes (proc(5), VmRSS). */
async function memoryMb(): Promise<number> {
  const status = await readFile(`/proc/${cast.server.pid}/status`, 'utf8');
  return Number(/VmRSS:\s+(?<kb>\d+)/u.exec(status)?.groups?.['kb'] ?? 0) / 1000;
}

describe('guessing passwords', () => {
  beforeEach(() => writableDb().delete(rateLimit));

  it('by forms is no way round the count of tries: only JSON is taken', async () => {
    for (const type of ['application/x-www-form-urlencoded', 'text/plain', 'multipart/form-data; boundary=x']) {
      const response = await fetch(`${cast.server.url}/api/auth/sign-in/email`, {
        method: 'POST',
        headers: { 'content-type': type, origin: cast.server.url },
        body: `email=${encodeURIComponent(cast.reader.email)}&password=wrong`,
      });
      expect(response.status).toBe(422);
      expect(response.headers.getSetCookie()).toEqual([]);
    }
  });

  it('is counted, paused and written down, whatever address is claimed', async () => {
    const someone = await newcomer(cast.keeper, 'Tried Often');
    const statuses: number[] = [];
    for (let at = 0; at < 13; at += 1) {
      await writableDb().delete(rateLimit);
      const response = await fetch(`${cast.server.url}/api/auth/sign-in/email`, {
        method: 'POST',
        headers: {
          'content-type': 'application/json',
          origin: cast.server.url,
          'x-forwarded-for': `198.51.100.${at}`,
          'x-embrin-address': `198.51.100.${at}`,
        },
        body: JSON.stringify({ email: someone.email, password: at < 12 ? `wrong ${at}` : passwords.others }),
      });
      statuses.push(response.status);
    }
    expect(statuses.slice(0, 10)).toEqual(Array(10).fill(401));
    expect(statuses.slice(10)).toEqual([429, 429, 429]);
    const rows = await writableDb().select().from(doorEvent).where(eq(doorEvent.email, someone.email));
    expect(rows).toHaveLength(13);
    expect(new Set(rows.map((row) => row.address))).toEqual(new Set(['127.0.0.1']));
  });
});

describe('a body without end', () => {
  /** Sends pieces until the server has answered or hung up; answers the status and how much went out. */
  const pour = (path: string, as: string, megabytes: number, headers: Record<string, string> = {}) =>
    new Promise<{ status: number; sentMb: number }>((done) => {
      const { hostname, port } = new URL(cast.server.url);
      let [sentMb, status] = [0, 0];
      const sending = httpRequest({
        hostname,
        port,
        path,
        method: 'POST',
        headers: { 'content-type': 'application/json', cookie: cast.cookies.get(as) ?? '', ...headers },
      });
      const end = () => {
        sending.destroy();
        done({ status, sentMb });
      };
      sending.on('response', (response) => {
        status = response.statusCode ?? 0;
        response.resume();
        end();
      });
      sending.on('error', end);
      const more = () => {
        if (sending.destroyed || sentMb >= megabytes) return sending.destroyed ? undefined : void sending.end();
        sentMb += 1;
        sending.write(Buffer.alloc(1_000_000, 0x20), () => setImmediate(more));
      };
      more();
    });

  it.each([
    ['/api/call/table.preview', 'nobody', 401],
    ['/api/call/places.series', 'outsider', 413],
    ['/api/auth/sign-in/email', 'nobody', 413],
    ['/api/join', 'nobody', 413],
    ['/api/found', 'nobody', 413],
  ])('to %s as %s is cut off, and takes no memory', async (path, as, status) => {
    const before = await memoryMb();
    const { status: answered, sentMb } = await pour(path, as, 120);
    // Whoever is still sending may be cut off before they read the answer.
    expect([status, 0]).toContain(answered);
    expect(sentMb).toBeLessThan(120);
    expect((await memoryMb()) - before).toBeLessThan(200);
    expect((await fetch(`${cast.server.url}/api/health`)).status).toBe(200);
  });

  it('of exactly what is taken is taken, and of one byte more is not', async () => {
    const sized = (bytes: number) => `{"more":"${'x'.repeat(bytes - 11)}"}`;
    const send = (body: string) =>
      fetch(`${cast.server.url}/api/call/places.series`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', cookie: cast.cookies.get('reader') ?? '' },
        body,
      });
    expect((await send(sized(4_000_000))).status).toBe(200);
    expect((await send(sized(4_000_001))).status).toBe(413);
    expect((await send('')).status).toBe(422);
  });
});

it('someone to whom nothing is open keeps nobody waiting by a workbook', async () => {
  const content = wideWorkbook(6000).toString('base64');
  const longestWait = async () => {
    const waits: number[] = [];
    for (let at = 0; at < 20; at += 1) {
      const from = performance.now();
      expect((await call('places.series', {}, 'keeper')).status).toBe(200);
      waits.push(performance.now() - from);
    }
    return Math.max(...waits);
  };
  const alone = await longestWait();
  const before = await memoryMb();
  const asked = ['outsider', 'reader'].map((as) =>
    call('table.preview', { placeId: cast.home.year.id, form: 'xlsx', content }, as),
  );
  const meanwhile = await longestWait();
  expect((await Promise.all(asked)).map((response) => response.status)).toEqual([404, 413]);
  // Beside the same machine left alone, for its tests may keep it busy with other things.
  expect(meanwhile - alone).toBeLessThan(1000);
  expect((await memoryMb()) - before).toBeLessThan(200);
});

describe('who may see a paper and not take copies of it', () => {
  const draft = {
    title: 'Kept here',
    subtitle: 'Works',
    written: new Date('2026-07-14T00:00:00Z'),
    author: 'Kea Keeper',
    paragraphs: ['One paragraph.'],
    figures: [{ what: 'Dues', pounds: 12.5 }],
  };
  let placeId = '';
  beforeAll(async () => {
    const folder = await createFolder(cast.keeper, { parentId: cast.home.year.id, name: 'Without copies' });
    placeId = folder.id;
    await say(cast.keeper, placeOn(placeId), [{ who: cast.reader, withholds: ['take'] }]);
  });

  it.each(Object.keys(makers).filter((ending) => ['pdf', 'docx', 'xlsx', 'txt', 'csv', 'png', 'tif'].includes(ending)))(
    'never gets the bytes of a .%s, by any way',
    async (ending) => {
      const content = (await makers[ending]?.({ ...draft, title: `Kept ${ending}` })) ?? Buffer.from('a,b\n');
      const id = await fileBuffer(cast.keeper, placeId, `kept.${ending}`, content);
      await fileBuffer(cast.keeper, placeId, `kept.${ending}`, Buffer.concat([content, Buffer.from('\n')]), 'version');
      await readPaper(id);
      const originals = new Set(
        (await writableDb().select({ sha256: version.sha256 }).from(version).where(eq(version.documentId, id))).map(
          (row) => row.sha256,
        ),
      );
      const { token } = await createToken(cast.reader, {
        name: ending,
        capabilities: ['see', 'take'],
        until: tomorrow(),
      });
      const { link } = await makeLink(cast.keeper, {
        on: { kind: 'paper', id },
        email: null,
        password: null,
        copies: false,
        until: tomorrow(),
        mostOpenings: null,
        message: '',
      });
      const outside = link.slice(link.lastIndexOf('/') + 1);
      const visit = await openLink(outside, { password: null, code: null }, { address: '', agent: '' });
      const visitCookie = `embrin-visit-${sha256Hex(outside).slice(0, 12)}=${visit.visit}`;
      const ways = [
        get(`/api/paper/${id}/content`, 'reader'),
        get(`/api/paper/${id}/content?copy`, 'reader'),
        get(`/api/paper/${id}/content?copy&page=1`, 'reader'),
        get(`/api/paper/${id}/content?version=1`, 'reader'),
        get(`/api/paper/${id}/content`, 'reader', { range: 'bytes=0-99999' }),
        get(`/api/paper/${id}/content`, 'reader', { 'sec-fetch-mode': 'navigate', accept: 'text/html' }),
        get(`/api/paper/${id}/content?page=1`, 'reader'),
        get(`/api/paper/${id}/content?form=pages`, 'reader'),
        get(`/api/paper/${id}/content?form=view`, 'reader'),
        get(`/api/paper/${id}/content?form=pages&page=1`, 'reader'),
        get(`/api/paper/${id}/content`, 'nobody', { authorization: `Bearer ${token}` }),
        get(`/api/outside/${outside}/paper/${id}`, 'nobody', { cookie: visitCookie }),
        get(`/api/outside/${outside}/paper/${id}?copy`, 'nobody', { cookie: visitCookie }),
        get(`/api/outside/${outside}/paper/${id}?form=pages`, 'nobody', { cookie: visitCookie }),
        get(`/api/outside/${outside}/paper/${id}?page=1`, 'nobody', { cookie: visitCookie }),
        get(`/api/paper/${id}/picture`, 'reader'),
      ];
      for (const response of await Promise.all(ways)) {
        const bytes = Buffer.from(await response.arrayBuffer());
        expect(originals.has(createHash('sha256').update(bytes).digest('hex'))).toBe(false);
        if (response.ok) expect(response.headers.get('content-type')).toBe('image/jpeg');
        else expect([403, 404, 415]).toContain(response.status);
      }
      const page = await get(`/api/paper/${id}/content?page=1`, 'reader');
      expect(page.status).toBe(200);
    },
  );

  it('is told so where there is no such page', async () => {
    const [paper] = await writableDb().select({ id: document.id }).from(document).where(eq(document.title, 'Kept'));
    const response = await get(`/api/paper/${paper?.id ?? cast.home.year.id}/content?page=900`, 'reader');
    expect([404, 415, 422]).toContain(response.status);
  });
});

const tomorrow = (): string => new Date(Date.now() + 86_400_000).toISOString().slice(0, 10);

describe('what was answered by a fault', () => {
  it.each([
    [
      'an opaque origin',
      () => call('label.create', { name: 'x', hue: 'plum', shared: false }, 'reader', { origin: 'null' }),
      403,
    ],
    ['an origin that is none', () => call('places.series', {}, 'reader', { origin: ':::' }), 403],
    ['a NUL among the words looked for', () => call('find', { words: 'a\u0000b' }, 'reader'), 422],
    [
      'a NUL in the words of a chooser',
      () => call('places.choose', { words: '\u0000', capability: 'add' }, 'reader'),
      422,
    ],
    ['no words in a chooser', () => call('places.choose', { words: '', capability: 'add' }, 'reader'), 200],
    [
      'a version no database has',
      () => get(`/api/paper/${cast.home.year.id}/content?version=2147483648`, 'reader'),
      422,
    ],
    [
      'an upload id that is none',
      () =>
        fetch(`${cast.server.url}/api/uploads/none`, {
          method: 'HEAD',
          headers: { cookie: cast.cookies.get('reader') ?? '', 'tus-resumable': '1.0.0' },
        }),
      404,
    ],
  ] as const)('%s is answered in words', async (_what, ask, status) => {
    expect((await ask()).status).toBe(status);
  });
});

it('says at once that an upload is not filed whose right was withdrawn while it came', async () => {
  const folder = await createFolder(cast.keeper, { parentId: cast.home.year.id, name: 'Withdrawn' });
  await say(cast.keeper, placeOn(folder.id), [{ who: cast.reader, gives: ['add'] }]);
  const uploadId = crypto.randomUUID();
  await startUpload(cast.reader, uploadId, 4, { placeId: folder.id, fileName: 'late.txt' });
  await say(cast.keeper, placeOn(folder.id), []);
  const response = await fetch(`${cast.server.url}/api/uploads/${uploadId}`, {
    method: 'PATCH',
    headers: {
      cookie: cast.cookies.get('reader') ?? '',
      origin: cast.server.url,
      'tus-resumable': '1.0.0',
      'upload-offset': '0',
      'content-type': 'application/offset+octet-stream',
    },
    body: 'late',
  });
  expect(response.status).toBe(403);
  expect(await writableDb().$count(document, eq(document.homeId, folder.id))).toBe(0);
});

it('a token that only reads cancels no upload, and does nothing else by any act', async () => {
  const { token } = await createToken(cast.keeper, { name: 'Reads', capabilities: ['see'], until: tomorrow() });
  const uploadId = crypto.randomUUID();
  await startUpload(cast.keeper, uploadId, 5, { placeId: cast.home.year.id, fileName: 'five.txt' });
  const response = await fetch(`${cast.server.url}/api/call/upload.cancel`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', authorization: `Bearer ${token}` },
    body: JSON.stringify({ uploadId }),
  });
  expect(response.status).toBe(403);
  expect(await writableDb().$count(upload, eq(upload.id, uploadId))).toBe(1);
});

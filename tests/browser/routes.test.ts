import { readdir, readFile } from 'node:fs/promises';
import path from 'node:path';
import { plainFields } from '@/core/columns/contract';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { beginAgenda } from '@/server/agenda/begin';
import { defineColumn } from '@/server/columns/define';
import { createList } from '@/server/columns/lists';
import { db } from '@/server/db/client';
import { accessGrant, document, journal, outsideOpening, place, seeAs, upload } from '@/server/db/schema';
import { createLabel } from '@/server/labels/labels';
import { makeMeetings, meetingsOf } from '@/server/meetings/meetings';
import { makeLink } from '@/server/outside/links';
import { createFolder } from '@/server/places/create';
import { makeNextCopy } from '@/server/packs/copies';
import { addPapers } from '@/server/packs/entries';
import { beginPack } from '@/server/packs/fromAgenda';
import { issuePack } from '@/server/packs/issue';
import { makeNextIssue } from '@/server/packs/make';
import { startUpload } from '@/server/uploads/start';
import { dropLibrary, freshLibrary, furnished, newcomer, open, passwords } from '../library';
import { readPaper } from '../reading';
import { WebServer } from './server';

/** Ids in addresses: all real, or all made up. */
interface Ids {
  readonly documentId: string;
  readonly placeId: string;
  readonly listId: string;
  readonly labelId: string;
  readonly personId: string;
  readonly meetingId: string;
  readonly packId: string;
  readonly issueId: string;
  readonly upload: string;
  readonly token: string;
}

const made: Ids = {
  documentId: '00000000-0000-4000-8000-000000000001',
  placeId: '00000000-0000-4000-8000-000000000002',
  listId: '00000000-0000-4000-8000-000000000003',
  labelId: '00000000-0000-4000-8000-000000000004',
  personId: '00000000-0000-4000-8000-000000000005',
  meetingId: '00000000-0000-4000-8000-000000000007',
  packId: '00000000-0000-4000-8000-000000000008',
  issueId: '00000000-0000-4000-8000-000000000009',
  upload: '00000000-0000-4000-8000-000000000006',
  token: 'made-up-token-that-is-as-long-as-one-that-is-real0',
};

interface Asked {
  readonly path: string;
  readonly body?: string | URLSearchParams;
  readonly headers?: Readonly<Record<string, string>>;
}
type How = (ids: Ids) => Asked;

const tus = { 'tus-resumable': '1.0.0' };
const base64 = (text: string): string => Buffer.from(text).toString('base64');
const taken = JSON.stringify({
  name: 'Mine',
  below: true,
  filter: '',
  conditions: [],
  groupings: [],
  sorts: [],
  columns: [],
});

/** How each route is asked, by method and folder. One that is missing here, or here without being there, fails the test. */
const routes: Readonly<Record<string, How | 'open to all'>> = {
  // What is done before anyone is signed in. What they let nobody do is tested where they are.
  'POST /api/auth/[...all]': 'open to all',
  'GET /api/health': 'open to all',
  'POST /api/found': 'open to all',
  'GET /offline-worker.js': 'open to all',
  'POST /api/join': 'open to all',
  'POST /api/call/[operation]': ({ documentId }) => ({
    path: '/api/call/paper.docket',
    body: JSON.stringify({ documentId }),
  }),
  'POST /api/stop': 'open to all',
  'GET /api/export/[exportId]': ({ documentId }) => ({ path: `/api/export/${documentId}` }),
  'GET /api/live': () => ({ path: '/api/live' }),
  'GET /api/reviews': () => ({ path: '/api/reviews' }),
  'GET /api/separator': () => ({ path: '/api/separator?reference=S-017' }),
  'GET /api/schedule': () => ({ path: '/api/schedule' }),
  'GET /api/meetings/[dossierId]': ({ placeId }) => ({ path: `/api/meetings/${placeId}` }),
  'GET /api/lists/[listId]': ({ listId }) => ({ path: `/api/lists/${listId}?as=csv` }),
  'GET /api/pack/[issueId]': ({ issueId }) => ({ path: `/api/pack/${issueId}?copy` }),
  'HEAD /api/pack/[issueId]': ({ issueId }) => ({ path: `/api/pack/${issueId}` }),
  'GET /api/arrival/[arrivalId]': ({ documentId }) => ({ path: `/api/arrival/${documentId}` }),
  'HEAD /api/arrival/[arrivalId]': ({ documentId }) => ({ path: `/api/arrival/${documentId}` }),
  'GET /api/paper/[documentId]/content': ({ documentId }) => ({ path: `/api/paper/${documentId}/content?copy` }),
  'HEAD /api/paper/[documentId]/content': ({ documentId }) => ({ path: `/api/paper/${documentId}/content` }),
  'GET /api/paper/[documentId]/picture': ({ documentId }) => ({ path: `/api/paper/${documentId}/picture` }),
  'POST /api/see-as': ({ personId }) => ({
    path: '/api/see-as',
    body: JSON.stringify({ kind: 'person', id: personId }),
  }),
  'DELETE /api/see-as': () => ({ path: '/api/see-as' }),
  'POST /api/table/[placeId]': ({ placeId }) => ({
    path: `/api/table/${placeId}`,
    body: new URLSearchParams({ form: 'csv' }),
  }),
  'POST /api/view/[placeId]': ({ placeId }) => ({
    path: `/api/view/${placeId}`,
    body: new URLSearchParams({ form: 'csv', view: taken }),
  }),
  'HEAD /api/uploads/[[...upload]]': ({ upload: id }) => ({ path: `/api/uploads/${id}`, headers: tus }),
  'OPTIONS /api/uploads/[[...upload]]': 'open to all',
  'PATCH /api/uploads/[[...upload]]': ({ upload: id }) => ({
    path: `/api/uploads/${id}`,
    headers: { ...tus, 'upload-offset': '0', 'content-type': 'application/offset+octet-stream' },
    body: 'secret',
  }),
  'POST /api/uploads/[[...upload]]': ({ placeId }) => ({
    path: '/api/uploads',
    headers: {
      ...tus,
      'upload-length': '6',
      'upload-metadata': `placeId ${base64(placeId)},fileName ${base64('note.txt')}`,
    },
  }),
  'POST /api/outside/[token]/open': ({ token }) => ({
    path: `/api/outside/${token}/open`,
    body: JSON.stringify({ password: 'guessed guessed' }),
  }),
  'POST /api/outside/[token]/sign': ({ token }) => ({
    path: `/api/outside/${token}/sign`,
    body: JSON.stringify({ answer: 'agreed', typedName: 'Ann Other', drawn: [] }),
  }),
  'POST /api/outside/[token]/code': ({ token }) => ({ path: `/api/outside/${token}/code`, body: '{}' }),
  'GET /api/outside/[token]/paper/[documentId]': ({ token, documentId }) => ({
    path: `/api/outside/${token}/paper/${documentId}`,
  }),
  'HEAD /api/outside/[token]/paper/[documentId]': ({ token, documentId }) => ({
    path: `/api/outside/${token}/paper/${documentId}`,
  }),
};

/** A link that asks for a password says so to whoever has it: that there is one is no secret from them. */
const knowsTheLink: ReadonlySet<string> = new Set(['POST /api/outside/[token]/open']);

const pages: Readonly<Record<string, (ids: Ids) => string>> = {
  '/access/[placeId]': ({ placeId }) => `/access/${placeId}`,
  '/account': () => '/account',
  '/all': () => '/all',
  '/columns/[placeId]': ({ placeId }) => `/columns/${placeId}`,
  '/across': () => '/across',
  '/backups': () => '/backups',
  '/desk': () => '/desk',
  '/duties': () => '/duties',
  '/exports': () => '/exports',
  '/health': () => '/health',
  '/intake': () => '/intake',
  '/journal': () => '/journal',
  '/label/[labelId]': ({ labelId }) => `/label/${labelId}`,
  '/find': () => '/find?words=mine',
  '/gaps': () => '/gaps',
  '/links': () => '/links',
  '/lists': () => '/lists',
  '/signatures': () => '/signatures',
  '/outside/[token]/[documentId]': ({ token, documentId }) => `/outside/${token}/${documentId}`,
  '/paper/[documentId]': ({ documentId }) => `/paper/${documentId}`,
  '/paper/[documentId]/versions': ({ documentId }) => `/paper/${documentId}/versions`,
  '/paper/[documentId]/write': ({ documentId }) => `/paper/${documentId}/write`,
  '/people': () => '/people',
  '/place/[placeId]': ({ placeId }) => `/place/${placeId}`,
  '/issued/[issueId]': ({ issueId }) => `/issued/${issueId}`,
  '/packs/[placeId]': ({ placeId }) => `/packs/${placeId}`,
  '/decisions/[placeId]': ({ placeId }) => `/decisions/${placeId}`,
  '/pack/[packId]': ({ packId }) => `/pack/${packId}`,
  '/meeting/[meetingId]': ({ meetingId }) => `/meeting/${meetingId}`,
  '/plan/[placeId]': ({ placeId }) => `/plan/${placeId}`,
  '/standing/[dossierId]': ({ placeId }) => `/standing/${placeId}`,
  '/print/[placeId]': ({ placeId }) => `/print/${placeId}`,
  '/reading': () => '/reading',
  '/retention': () => '/retention',
  '/settings': () => '/settings',
  '/tray': () => '/tray',
};
/** Before anyone is signed in. */
const frontPages = [
  '/',
  '/begin',
  '/invitation/[token]',
  '/new-password',
  '/new-password/[token]',
  '/outside/[token]',
  '/sign-in',
  '/stop/[personId]/[mark]',
];

let keeper: Actor;
let reader: Actor;
let real: Ids;
let server: WebServer;
const cookies = new Map<string, string>();

beforeAll(async () => {
  keeper = await freshLibrary();
  reader = await newcomer(keeper, 'Rea Der');
  const outsider = await newcomer(keeper, 'Out Sider');
  const home = await furnished(keeper, 'Secret series');
  const folder = await createFolder(keeper, { parentId: home.year.id, name: 'Secret folder' });
  const documentId = await fileBuffer(keeper, folder.id, 'Secret pact.txt', Buffer.from('The secret pact\n'));
  await defineColumn(keeper, { ...plainFields, placeId: home.series.id, name: 'Secret remark', type: 'text' });
  const uploadId = crypto.randomUUID();
  await startUpload(keeper, uploadId, 6, { placeId: folder.id, fileName: 'Secret upload.txt' });
  const { link } = await makeLink(keeper, {
    on: { kind: 'paper', id: documentId },
    email: null,
    password: 'a secret of the link',
    copies: true,
    until: new Date(Date.now() + 86_400_000).toISOString().slice(0, 10),
    mostOpenings: null,
    message: '',
  });
  const dossierId = home.dossier.id;
  await makeMeetings(keeper, { dossierId, days: ['2027-01-12'], title: 'Secret meeting', venue: '' });
  const [meeting] = await meetingsOf(keeper, { dossierId });
  await beginAgenda(keeper, { of: { meetingId: meeting?.id ?? '' } });
  const { packId } = await beginPack(keeper, { of: { meetingId: meeting?.id ?? '' } });
  await addPapers(keeper, { packId, parentId: null, documentIds: [documentId] });
  await readPaper(documentId);
  const { issueId } = await issuePack(keeper, { packId, asFiles: true, as: 'whole' });
  await makeNextIssue();
  while (await makeNextCopy());
  real = {
    documentId,
    packId,
    issueId,
    meetingId: meeting?.id ?? '',
    placeId: folder.id,
    listId: (await createList(keeper, { name: 'Types', terms: ['Minutes'] })).id,
    labelId: (await createLabel(keeper, { name: 'Secret mark', hue: 'plum', shared: false })).id,
    personId: keeper.personId,
    upload: uploadId,
    token: link.slice(link.lastIndexOf('/') + 1),
  };
  await open(keeper, home.series.id, reader, 'reader');
  server = await WebServer.start();
  cookies.set('outsider', await server.signIn(outsider.email, passwords.others));
  cookies.set('reader', await server.signIn(reader.email, passwords.others));
});

afterAll(async () => {
  await server.end();
  await dropLibrary();
});

/** All files of a name in the tree of pages and routes, as the folder they answer for. */
async function foldersWith(file: string): Promise<{ folder: string; text: string }[]> {
  const found = (await readdir('src/app', { recursive: true })).filter((each) => path.basename(each) === file);
  return Promise.all(
    found.map(async (each) => ({
      folder: `/${path.dirname(each)}`.replace(/\/\([^)]+\)/gu, '').replace(/\/\.$/u, '/'),
      text: await readFile(path.join('src/app', each), 'utf8'),
    })),
  );
}

/** The methods that a route file hands out. */
const methodsOf = (text: string): string[] => [
  ...new Set(
    text
      .split('\n')
      .filter((line) => line.startsWith('export '))
      .flatMap((line) => [...line.matchAll(/\b(GET|HEAD|POST|PUT|PATCH|DELETE|OPTIONS)\b/gu)].map((each) => each[0])),
  ),
];

const ask = (key: string, asked: Asked, who: string, origin = server.url) => {
  const method = key.slice(0, key.indexOf(' '));
  return fetch(`${server.url}${asked.path}`, {
    method,
    redirect: 'manual',
    headers: {
      ...(typeof asked.body === 'string' ? { 'content-type': 'application/json' } : {}),
      ...asked.headers,
      cookie: cookies.get(who) ?? '',
      ...(method === 'GET' || method === 'HEAD' ? {} : { origin }),
    },
    ...(asked.body === undefined ? {} : { body: asked.body }),
  });
};

/** An answer as text, without what is of the request itself: ids that were sent, the moment, the nonce of a page. */
async function told(response: Response, ids: Ids): Promise<string> {
  const headers = [...response.headers].filter(([name]) => !['date', 'content-security-policy'].includes(name));
  const whole = `${response.status}\n${JSON.stringify(headers)}\n${await response.text()}`;
  return Object.entries(ids)
    .reduce((text, [name, id]) => text.replaceAll(id, name), whole)
    .replaceAll(/nonce(?:\\?"|=)+:?(?:\\?")?[A-Za-z0-9+/=]+/gu, 'nonce');
}

/**
 * All that a page says, in words and in data, sorted: in which pieces and in which order a page is sent is left to the
 * moment. The moment itself, and the numbers by which the pieces name each other, are left out.
 */
async function wordsOf(response: Response, ids: Ids): Promise<string> {
  const page = await told(response, ids);
  const words = page.match(/[^\s"\\<>{}[\],:$]{3,}/gu) ?? [];
  const said = words.filter(
    (word) => !/^(?:n?[LQ@]?[0-9a-f]{1,3}|\d{4}-\d\d-\d\dT\d\d|\d\d\.\d+Z|nonce.*)$/u.test(word),
  );
  return [response.status, ...[...new Set(said)].sort()].join('\n');
}

const fingerprint = async (): Promise<string> =>
  JSON.stringify([
    await db().$count(journal),
    await db().$count(upload),
    await db().$count(accessGrant),
    await db().$count(seeAs),
    await db().$count(outsideOpening),
    await db().select().from(document).orderBy(document.id),
    await db().select().from(place).orderBy(place.id),
  ]);

const guarded = Object.entries(routes).filter((each): each is [string, How] => each[1] !== 'open to all');

it('every route and every page stands in the matrix', async () => {
  const handlers = (await foldersWith('route.ts')).flatMap(({ folder, text }) =>
    methodsOf(text).map((method) => `${method} ${folder}`),
  );
  expect(handlers.sort()).toEqual(Object.keys(routes).sort());
  const seen = (await foldersWith('page.tsx')).map(({ folder }) => folder);
  expect(seen.sort()).toEqual([...Object.keys(pages), ...frontPages].sort());
});

describe('someone to whom nothing is open', () => {
  it.each(guarded.filter(([key]) => !knowsTheLink.has(key) && !/lists|live/u.test(key)))(
    'is answered by %s for what there is as for what never was, byte for byte',
    async (key, how) => {
      const answered = await told(await ask(key, how(real), 'outsider'), real);
      expect(answered).toBe(await told(await ask(key, how(made), 'outsider'), made));
      expect(answered.toLowerCase()).not.toContain('secret');
    },
  );

  it.each(Object.entries(pages))('is shown %s for what there is as for what never was', async (_folder, to) => {
    const answered = await wordsOf(await ask('GET page', { path: to(real) }, 'outsider'), real);
    // By lines, so that a difference is one line long.
    expect(answered.split('\n')).toEqual(
      (await wordsOf(await ask('GET page', { path: to(made) }, 'outsider'), made)).split('\n'),
    );
    expect(answered.toLowerCase()).not.toContain('secret');
  });
});

describe('nobody', () => {
  it.each(guarded)('gets nothing by %s', async (key, how) => {
    const before = await fingerprint();
    const response = await ask(key, how(real), 'nobody');
    expect(response.status).toBeGreaterThanOrEqual(400);
    expect(response.status).toBeLessThan(500);
    expect((await response.text()).toLowerCase()).not.toContain('secret');
    expect(await fingerprint()).toBe(before);
  });

  it.each(Object.entries(pages))('is shown nothing by %s', async (_folder, to) => {
    const response = await ask('GET page', { path: to(real) }, 'nobody');
    expect((await response.text()).toLowerCase()).not.toContain('secret');
  });
});

describe('another site', () => {
  it.each(guarded.filter(([key]) => !/^(?:GET|HEAD)/u.test(key)))(
    'has nothing done by %s in the name of someone who is signed in',
    async (key, how) => {
      const before = await fingerprint();
      const response = await ask(key, how(real), 'reader', 'https://elsewhere.example');
      expect(response.status).toBe(403);
      expect(await fingerprint()).toBe(before);
    },
  );
});

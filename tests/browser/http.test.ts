import { plainFields } from '@/core/columns/contract';
import { fileBuffer } from '@/demo/file';
import { defineColumn } from '@/server/columns/define';
import { createList } from '@/server/columns/lists';
import { db } from '@/server/db/client';
import { document, upload } from '@/server/db/schema';
import { setActive } from '@/server/people/people';
import { dropLibrary, passwords } from '../library';
import { enter, type Cast } from './cast';

let cast: Cast;
let paper: string;
let listId: string;

beforeAll(async () => {
  cast = await enter();
  const { keeper, home } = cast;
  paper = await fileBuffer(keeper, home.year.id, 'Minutes.txt', Buffer.from('Minutes of the meeting\n'));
  await defineColumn(keeper, { ...plainFields, placeId: home.series.id, name: '=Remark', type: 'text' });
  listId = (await createList(keeper, { name: 'Paper type', terms: ['=Minutes'] })).id;
});

afterAll(async () => {
  await cast.server.end();
  await dropLibrary();
});

interface Asked {
  readonly as?: string;
  readonly body?: string;
  readonly origin?: string;
  readonly headers?: Record<string, string>;
  readonly method?: string;
}
const ask = (path: string, { as, body, origin, headers, method }: Asked = {}) =>
  fetch(cast.server.url + path, {
    method: method ?? (body === undefined ? 'GET' : 'POST'),
    redirect: 'manual',
    headers: {
      ...(as ? { cookie: cast.cookies.get(as) ?? '' } : {}),
      ...(body === undefined ? {} : { 'content-type': 'application/json' }),
      ...(origin ? { origin } : {}),
      ...headers,
    },
    ...(body === undefined ? {} : { body }),
  });
const call = (name: string, input: unknown, more: Asked = {}) =>
  ask(`/api/call/${name}`, { as: 'keeper', body: JSON.stringify(input), ...more });
const problem = async (response: Response) => {
  expect(response.headers.get('content-type')).toBe('application/problem+json');
  expect(response.headers.get('cache-control')).toBe('no-store');
  return (await response.json()) as {
    type: string;
    title: string;
    status: number;
    fields?: { path: string; says: string }[];
  };
};

describe('what is asked over HTTP', () => {
  it('is answered as JSON that nobody keeps', async () => {
    const response = await call('place.open', { placeId: cast.home.year.id });
    expect([response.status, response.headers.get('content-type'), response.headers.get('cache-control')]).toEqual([
      200,
      'application/json',
      'no-store',
    ]);
  });

  it.each([
    ['an operation that there is not', () => call('place.destroyAll', {}), 404, '/problems/not-found'],
    ['a name out of the object’s own past', () => call('constructor', {}), 404, '/problems/not-found'],
    ['nobody signed in', () => call('places.series', {}, { as: 'nobody' }), 401, '/problems/signed-out'],
    [
      'a session that was made up',
      () => ask('/api/call/places.series', { body: '{}', headers: { cookie: 'embrin.session_token=made.up' } }),
      401,
      '/problems/signed-out',
    ],
    ['what is no JSON', () => call('places.series', {}, { body: '{"half' }), 422, '/problems/invalid'],
    ['what is no id', () => call('place.open', { placeId: '../1' }), 422, '/problems/invalid'],
    [
      'a body far too large',
      () => call('paper.setRemark', { remark: 'x'.repeat(4_100_000) }),
      413,
      '/problems/too-large',
    ],
    [
      'another site',
      () => call('folder.create', { parentId: cast.home.year.id, name: 'x' }, { origin: 'https://elsewhere.example' }),
      403,
      '/problems/wrong-origin',
    ],
  ] as const)('is refused with problem details (RFC 9457): %s', async (_what, asking, status, type) => {
    const response = await asking();
    expect(response.status).toBe(status);
    expect(await problem(response)).toMatchObject({ type, status });
  });

  it('names the field at fault, with a sentence for each', async () => {
    const told = await problem(await call('folder.create', { parentId: cast.home.year.id, name: '   ' }));
    expect(told.fields).toEqual([{ path: 'name', says: 'A name is needed: at least one visible letter.' }]);
  });

  it('tells nothing of itself: no stack, no query, no version', async () => {
    for (const response of [
      await call('place.open', { placeId: 'x' }),
      await ask('/api/nowhere', { as: 'keeper' }),
      await ask('/place/nowhere', { as: 'keeper' }),
    ]) {
      expect(response.headers.get('x-powered-by')).toBeNull();
      expect(await response.text()).not.toMatch(/select |node_modules|at .*\.ts:\d+/u);
    }
  });
});

describe('pages and files', () => {
  it('carry a strict policy, and cannot be framed or sniffed', async () => {
    const response = await ask('/sign-in');
    const policy = response.headers.get('content-security-policy') ?? '';
    expect(policy).toContain("default-src 'self'");
    expect(policy).toContain("object-src 'none'");
    expect(policy).toMatch(/script-src [^;]*'nonce-/u);
    expect(policy).not.toMatch(/script-src [^;]*'unsafe-inline'/u);
    expect(policy).toContain("frame-ancestors 'none'");
    expect(response.headers.get('x-content-type-options')).toBe('nosniff');
  });

  it('send who is not signed in to the sign-in, and back again afterwards', async () => {
    const address = `/place/${cast.home.year.id}?sort=pages&direction=down`;
    const response = await ask(address);
    expect([307, 302, 200]).toContain(response.status);
    const to = response.headers.get('location') ?? (await response.text());
    expect(to).toContain(encodeURIComponent(address));
  });

  it('give lists and tables only to those who may have them, whatever the form', async () => {
    const table = (as: string) =>
      fetch(`${cast.server.url}/api/table/${cast.home.series.id}`, {
        method: 'POST',
        headers: { cookie: cast.cookies.get(as) ?? '', origin: cast.server.url },
        body: new URLSearchParams({ form: 'csv' }),
      });
    expect((await table('outsider')).status).toBe(404);
    expect((await table('nobody')).status).toBe(401);
    const given = await table('reader');
    expect(given.status).toBe(200);
    // What a spreadsheet would run is made text, in headings as in cells.
    expect(await given.text()).toMatch(/^Paper id,Path,Title,'=Remark\r\n/u);
    const list = await ask(`/api/lists/${listId}?as=csv`, { as: 'reader' });
    expect(await list.text()).toContain("'=Minutes");
    expect(list.headers.get('content-disposition')).toContain('attachment');
    expect((await ask(`/api/lists/${crypto.randomUUID()}?as=csv`, { as: 'reader' })).status).toBe(404);
  });

  it('refuse a form that another site makes the browser send', async () => {
    const response = await fetch(`${cast.server.url}/api/table/${cast.home.series.id}`, {
      method: 'POST',
      headers: { cookie: cast.cookies.get('keeper') ?? '', origin: 'https://elsewhere.example' },
      body: new URLSearchParams({ form: 'csv' }),
    });
    expect(response.status).toBe(403);
  });
});

describe('uploads (tus 1.0)', () => {
  const tus = { 'tus-resumable': '1.0.0' };
  const encoded = (metadata: Record<string, string>) =>
    Object.entries(metadata)
      .map(([key, value]) => `${key} ${Buffer.from(value).toString('base64')}`)
      .join(',');
  const begin = (as: string, placeId: string, length = 10) =>
    ask('/api/uploads', {
      as,
      method: 'POST',
      headers: {
        ...tus,
        origin: cast.server.url,
        'upload-length': String(length),
        'upload-metadata': encoded({ placeId, fileName: 'note.txt' }),
      },
    });
  const send = (as: string, address: string, offset: number, body: string) =>
    fetch(new URL(address, cast.server.url), {
      method: 'PATCH',
      headers: {
        ...tus,
        cookie: cast.cookies.get(as) ?? '',
        origin: cast.server.url,
        'upload-offset': String(offset),
        'content-type': 'application/offset+octet-stream',
      },
      body,
    });

  it('begin only where one may add, and for nobody else', async () => {
    const before = await db().$count(upload);
    expect((await begin('reader', cast.home.year.id)).status).toBe(403);
    expect((await begin('outsider', cast.home.year.id)).status).toBe(404);
    expect((await begin('nobody', cast.home.year.id)).status).toBe(401);
    expect(await db().$count(upload)).toBe(before);
  });

  it('go on only at the offset that was reached, and only for whose they are', async () => {
    const made = await begin('keeper', cast.home.year.id);
    expect(made.status).toBe(201);
    const address = made.headers.get('location') ?? '';
    expect((await send('outsider', address, 0, 'hello')).status).toBe(404);
    expect((await send('keeper', `${address.slice(0, -4)}0000`, 0, 'hello')).status).toBe(404);
    expect((await send('keeper', address, 3, 'hello')).status).toBe(409);
    expect((await send('keeper', address, 0, 'hello')).status).toBe(204);
    const head = await ask(new URL(address, cast.server.url).pathname, { as: 'keeper', method: 'HEAD', headers: tus });
    expect(head.headers.get('upload-offset')).toBe('5');
    expect((await send('keeper', address, 0, 'hello')).status).toBe(409);
    const before = await db().$count(document);
    expect((await send('keeper', address, 5, 'world')).status).toBe(204);
    expect(await db().$count(document)).toBe(before + 1);
  });
});

it('ends for someone whose account is switched off, at once and on every way', async () => {
  expect((await call('paper.docket', { documentId: paper }, { as: 'reader' })).status).toBe(200);
  await setActive(cast.keeper, { personId: cast.reader.personId, active: false });
  expect((await call('paper.docket', { documentId: paper }, { as: 'reader' })).status).toBe(401);
  expect((await ask(`/api/paper/${paper}/content?copy`, { as: 'reader' })).status).toBe(401);
  const again = await fetch(`${cast.server.url}/api/auth/sign-in/email`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: cast.server.url },
    body: JSON.stringify({ email: cast.reader.email, password: passwords.others }),
  });
  expect(again.ok).toBe(false);
});

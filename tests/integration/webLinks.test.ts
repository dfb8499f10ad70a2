import { docketOf } from '@/server/documents/docket';
import type { Actor } from '@/server/gate/actor';
import { addLink } from '@/server/uploads/addLink';
import { openView } from '@/server/views/open';
import { fileBuffer } from '@/demo/file';
import { stopTally } from '@/server/tally/host';
import { dropLibrary, freshLibrary, furnished, newcomer, open, plainQuestion, refusedAs } from '../library';
import { readPaper, viewOf } from '../reading';

let keeper: Actor;
let reader: Actor;
let yearId: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  reader = await newcomer(keeper, 'Rea Der');
  const home = await furnished(keeper);
  yearId = home.year.id;
  await open(keeper, home.series.id, reader, 'reader');
});
afterAll(async () => {
  await stopTally();
  await dropLibrary();
});

const link = { title: 'Tide tables', address: 'tides.example/table?port=2', remark: 'Checked each spring' };

it('is a paper like any other: with a version, found by its address, and nothing is fetched', async () => {
  const { documentId } = await addLink(keeper, { placeId: yearId, ...link });
  const docket = await docketOf(keeper, { documentId });
  expect(docket).toMatchObject({ title: 'Tide tables', stamp: 'LINK', remark: 'Checked each spring' });
  const sha256 = await readPaper(documentId);
  expect((await viewOf(sha256, 'text')).text).toMatch(
    /^# Tide tables\r?\nhttps:\/\/tides\.example\/table\?port=2\s*$/u,
  );
  const { rows } = await openView(keeper, {
    ...plainQuestion,
    placeId: yearId,
    conditions: [{ of: 'find', find: 'tides.example', among: 'inside' }],
  });
  expect(rows.map(({ title }) => title)).toEqual(['Tide tables']);
});

it('two of one address are two papers, also at the same moment', async () => {
  const both = await Promise.all([1, 2].map(() => addLink(keeper, { placeId: yearId, ...link })));
  expect(new Set(both.map(({ documentId }) => documentId)).size).toBe(2);
});

it('is refused for other schemes, and for those who may not file here', async () => {
  for (const address of ['javascript:alert(1)', 'file:///etc/passwd', 'nothing', 'https://a:b@tides.example'])
    expect(await refusedAs(addLink(keeper, { placeId: yearId, ...link, address }))).toBe('invalid');
  expect(await refusedAs(addLink(reader, { placeId: yearId, ...link }))).toBe('not-allowed');
});

it('is known by its ending where it comes as a file', async () => {
  const id = await fileBuffer(keeper, yearId, 'harbour.uri', Buffer.from('# Harbour\r\nhttps://harbour.example/\r\n'));
  expect(await docketOf(keeper, { documentId: id })).toMatchObject({ stamp: 'LINK' });
});

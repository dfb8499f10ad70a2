import { createHash } from 'node:crypto';
import { zipSync, type Zippable } from 'fflate';
import { listHeadings } from '@/core/archives/lists';
import { NotUnpacked, unpackArchive } from './unpackArchive';

const bytes = (text: string) => new TextEncoder().encode(text);
const sumOf = (text: string) => createHash('sha256').update(text).digest('hex');
const archive = (files: Zippable) => new Blob([zipSync(files) as Uint8Array<ArrayBuffer>]);
const why = async (blob: Blob) =>
  unpackArchive(blob).then(
    () => null,
    (error: unknown) => (error instanceof NotUnpacked ? error.message : error),
  );

it('unpacks files with their folders, packed or not; what systems leave is left out', async () => {
  const told: string[] = [];
  const { files } = await unpackArchive(
    archive({
      'Agendas/May.txt': bytes('agenda '.repeat(1000)),
      'ü.txt': [bytes('stored'), { level: 0 }],
      '.DS_Store': bytes('x'),
    }),
    (done, of) => told.push(`${done}/${of}`),
  );
  expect(files.map(({ path, refused, sizeBytes }) => [path, refused, sizeBytes])).toEqual([
    ['Agendas/May.txt', null, 7000],
    ['ü.txt', null, 6],
  ]);
  expect(await files[0]?.content?.text()).toBe('agenda '.repeat(1000));
  expect(told).toEqual(['0/2', '1/2']);
});

it('reads the list and the sums of an export, and gives neither out', async () => {
  const list = [
    [...listHeadings, 'Status'],
    ['a.txt', 'The first', 'TEXT', 'X', '', '', '', '1', 'Final'],
  ];
  const { files, sums } = await unpackArchive(
    archive({
      'a.txt': bytes('a'),
      'b.txt': bytes('b'),
      'Papers.csv': bytes(list.map((row) => row.join(',')).join('\r\n')),
      SHA256SUMS: bytes(`${sumOf('a')}  a.txt\n${sumOf('other')}  b.txt\n`),
    }),
  );
  expect(files.map(({ path, title, cells }) => [path, title, cells])).toEqual([
    ['a.txt', 'The first', { Status: 'Final' }],
    ['b.txt', null, null],
  ]);
  expect(files.map(({ refused }) => refused)).toEqual([null, expect.stringContaining('its sum')]);
  expect(sums).toBe(2);
});

it('gives out what has the name of a list or of sums and is none', async () => {
  const { files, sums } = await unpackArchive(
    archive({ 'Papers.csv': bytes('Newspapers,Price\r\nThe Tide,2.50'), SHA256SUMS: bytes('to be done') }),
  );
  expect([files.map(({ path, refused }) => [path, refused]), sums]).toEqual([
    [
      ['Papers.csv', null],
      ['SHA256SUMS', null],
    ],
    0,
  ]);
});

it('names what would harm, and takes the others', async () => {
  const { files } = await unpackArchive(
    archive({
      '../up.txt': bytes('x'),
      'link.txt': [bytes('/etc/passwd'), { os: 3, attrs: 0o120777 << 16 }],
      'bomb.txt': new Uint8Array(5_000_000),
      'A.txt': bytes('one'),
      'a.txt': bytes('two'),
    }),
  );
  expect(files.map(({ path, refused }) => [path, refused === null])).toEqual([
    ['../up.txt', false],
    ['link.txt', false],
    ['bomb.txt', false],
    ['A.txt', true],
    ['a.txt', true],
  ]);
});

it('takes no more of a file than was announced, and none that was changed', async () => {
  const zipped = zipSync({
    'long.txt': bytes('abcdefgh'.repeat(5000)),
    'other.txt': [bytes('untouched'), { level: 0 }],
  });
  // The sizes in the directory and before the file are made smaller than it is.
  const lying = Buffer.from(zipped);
  for (let at = lying.indexOf('long.txt'); at !== -1; at = lying.indexOf('long.txt', at + 1)) {
    const size = lying.subarray(0, at).lastIndexOf(Buffer.from(Uint32Array.of(40_000).buffer));
    lying.writeUInt32LE(10, size);
  }
  const changed = Buffer.from(zipped);
  changed[changed.indexOf('untouched')] = 'U'.charCodeAt(0);
  const refusals = async (data: Buffer) =>
    (await unpackArchive(new Blob([new Uint8Array(data)]))).files.map(({ refused }) => refused !== null);
  expect(await refusals(Buffer.from(zipped))).toEqual([false, false]);
  expect(await refusals(lying)).toEqual([true, false]);
  expect(await refusals(changed)).toEqual([false, true]);
});

it('says what is no archive, what is empty, and what was cut', async () => {
  expect(await why(new Blob(['no archive']))).toContain('no ZIP archive');
  expect(await why(archive({}))).toContain('no file');
  const cut = zipSync({ 'a.txt': bytes('a') }).slice(0, -10);
  expect(await why(new Blob([cut as Uint8Array<ArrayBuffer>]))).toContain('damaged');
});

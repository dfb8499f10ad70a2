import { call } from '../server/call';
import { fileHash } from './fileHash';
import { findAlike } from './useAlike';
import type { OfferedFile } from './offeredFiles';

jest.mock('./fileHash', () => ({ fileHash: jest.fn((file: File) => Promise.resolve(`hash of ${file.name}`)) }));
jest.mock('../server/call', () => ({ call: jest.fn() }));
const server = call as unknown as jest.Mock<Promise<unknown>, [string, { sha256s: string[] }]>;

const offered = (name: string): OfferedFile => ({
  key: name,
  file: new File(['text'], name),
  title: name,
  relativePath: '',
  refused: null,
  from: null,
  cells: {},
  sizeBytes: 4,
});
const files = ['a', 'b', 'c'].map(offered);

beforeEach(() => {
  server.mockReset();
  server.mockImplementation((_name, { sha256s }) =>
    Promise.resolve(sha256s.map((sha256) => ({ sha256, documentId: sha256, title: 'Minutes', placeName: 'Board' }))),
  );
});

it('finds the papers for all files in one question', async () => {
  const tell = jest.fn();
  await findAlike(files, new Set(), { on: true }, tell);
  expect(server).toHaveBeenCalledTimes(1);
  expect(tell.mock.calls.flat(2).map(([key]: [string]) => key)).toEqual(['a', 'b', 'c']);
});

it('asks again for files that were read when it was broken off, as by a title that is typed', async () => {
  const [asked, going, tell] = [new Set<string>(), { on: true }, jest.fn()];
  jest.mocked(fileHash).mockImplementationOnce(() => {
    going.on = false;
    return Promise.resolve('hash of a');
  });
  await findAlike(files, asked, going, tell);
  expect(tell).not.toHaveBeenCalled();
  await findAlike(files, asked, { on: true }, tell);
  expect(tell.mock.calls.flat(2).map(([key]: [string]) => key)).toEqual(['a', 'b', 'c']);
});

it('asks again where the library could not be reached', async () => {
  const asked = new Set<string>();
  server.mockRejectedValueOnce(new Error('away'));
  await findAlike(files, asked, { on: true }, jest.fn());
  await findAlike(files, asked, { on: true }, jest.fn());
  expect(server).toHaveBeenCalledTimes(2);
  await findAlike(files, asked, { on: true }, jest.fn());
  expect(server).toHaveBeenCalledTimes(2);
});

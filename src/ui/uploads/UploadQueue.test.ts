import { queueItem as item } from '../../../tests/queueItem';
import { issue } from '@/core/errors/issue';
import { queueTotals } from '@/core/uploads/queue';
import { Refusal } from '@/core/errors/refusal';
import { call } from '../server/call';
import { fileHash } from './fileHash';
import { UploadQueue } from './UploadQueue';

interface Sent {
  readonly options: {
    readonly onUploadUrlAvailable: () => void;
    readonly onSuccess: () => void;
    readonly onError: (error: unknown) => void;
  };
  url: string | null;
  started: number;
}
const sent: Sent[] = [];
jest.mock('tus-js-client', () => ({
  Upload: class {
    url: string | null = null;
    started = 0;
    constructor(
      _file: unknown,
      readonly options: Sent['options'],
    ) {
      sent.push(this);
    }
    findPreviousUploads = () => Promise.resolve([]);
    abort = () => Promise.resolve();
    start() {
      this.started += 1;
    }
  },
}));
jest.mock('./batch', () => ({
  rememberFiles: jest.fn(() => Promise.resolve()),
  forgetFiles: jest.fn(() => Promise.resolve()),
}));
jest.mock('./fileHash', () => ({ fileHash: jest.fn(() => Promise.resolve('0'.repeat(64))) }));
jest.mock('../server/signedOut', () => ({ signedInAgain: jest.fn(() => Promise.resolve(true)) }));
jest.mock('../server/call', () => ({ call: jest.fn() }));
const server = call as unknown as jest.Mock<Promise<unknown>, [string, unknown]>;

/** Until what is filed together was filed, and the screen has heard of it. */
const settled = async () => {
  for (let round = 0; round < 5; round += 1) await jest.advanceTimersByTimeAsync(300);
};
beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());
const large = 5 * 1024 * 1024;
const begun = async (
  keys: readonly string[],
  then?: (documentId: string) => void,
  sizeBytes = large,
  tell: readonly string[] = [],
) => {
  sent.length = 0;
  server.mockReset();
  const onFiled = jest.fn();
  const onTold = jest.fn();
  const queue = new UploadQueue('person', onFiled, onTold);
  queue.add(
    keys.map((key) => ({ item: item(key, { sizeBytes, tell }), file: new File(['text'], `${key}.txt`) })),
    then,
  );
  await settled();
  const states = () => queue.items().map(({ state }) => state);
  return { queue, states, onFiled, onTold };
};
const arrive = async (upload: Sent | undefined, outcome: object) => {
  if (!upload) throw new Error('Nothing is being sent');
  upload.options.onUploadUrlAvailable();
  server.mockImplementationOnce((_name, input) =>
    Promise.resolve((input as { uploadIds: string[] }).uploadIds.map((uploadId) => ({ uploadId, outcome }))),
  );
  upload.options.onSuccess();
  await settled();
};

it('sends two large files at a time, and the next when one has been filed', async () => {
  const { states, onFiled } = await begun(['a', 'b', 'c']);
  expect(states()).toEqual(['sending', 'sending', 'waiting']);
  await arrive(sent[0], { state: 'filed', documentId: 'paper', placeId: 'here' });
  expect(states()).toEqual(['filed', 'sending', 'sending']);
  expect(onFiled).toHaveBeenCalledTimes(1);
});

it('tells of the paper once, with the answer to a question that the upload waited with', async () => {
  const then = jest.fn();
  const { queue, states } = await begun(['a'], then);
  await arrive(sent[0], { state: 'same-name' });
  expect(states()).toEqual(['asking']);
  server.mockResolvedValueOnce({ state: 'filed', documentId: 'paper', placeId: 'here' });
  await queue.answer('a', { onSameName: 'both' });
  expect(server).toHaveBeenLastCalledWith('upload.answer', { uploadId: 'a', onSameName: 'both', cells: {} });
  expect(then.mock.calls).toEqual([['paper']]);
});

it('keeps a file whose connection was lost for a retry, and gives up one that is refused for good', async () => {
  const { queue, states } = await begun(['a', 'b']);
  sent[0]?.options.onError(new Error('gone'));
  const body = JSON.stringify({ type: 'x' });
  const originalResponse = { getStatus: () => 413, getBody: () => body };
  sent[1]?.options.onError(Object.assign(new Error('too large'), { originalResponse }));
  await settled();
  expect(states()).toEqual(['interrupted', 'refused']);
  queue.retry('a');
  await settled();
  expect(states()).toEqual(['sending', 'refused']);
});

it('goes on by itself once the person has signed in again', async () => {
  await begun(['a']);
  const originalResponse = { getStatus: () => 401, getBody: () => '{}' };
  sent[0]?.options.onError(Object.assign(new Error('signed out'), { originalResponse }));
  await settled();
  expect([sent.length, sent[0]?.started]).toEqual([1, 2]);
});

it('cancels at the server what it has of a file, and sends the next', async () => {
  const { queue, states } = await begun(['a', 'b', 'c']);
  sent[0]?.options.onUploadUrlAvailable();
  server.mockRejectedValueOnce(new Refusal(issue('unavailable')));
  await queue.cancel('a');
  await settled();
  expect(server).toHaveBeenCalledWith('upload.cancel', { uploadId: 'a' });
  expect(states()).toEqual(['cancelled', 'sending', 'sending']);
});

it('asks for a file again that can no longer be read', async () => {
  (fileHash as jest.Mock).mockResolvedValueOnce(null);
  const { queue, states } = await begun(['a']);
  expect(states()).toEqual(['interrupted']);
  expect(queue.items()[0]?.issue?.says).toContain('Choose it again');
});

it('sends six small files at a time, and has them filed together', async () => {
  const keys = ['a', 'b', 'c', 'd', 'e', 'f', 'g'];
  const { states, onFiled } = await begun(keys, undefined, 20_000);
  expect(states().filter((state) => state === 'sending')).toHaveLength(6);
  server.mockImplementation((_name, input) =>
    Promise.resolve(
      (input as { uploadIds: string[] }).uploadIds.map((uploadId) => ({
        uploadId,
        outcome: { state: 'filed', documentId: `paper ${uploadId}`, placeId: 'here' },
      })),
    ),
  );
  for (const upload of sent.slice(0, 6)) upload.options.onSuccess();
  await settled();
  sent[6]?.options.onSuccess();
  await settled();
  expect(states()).toEqual(keys.map(() => 'filed'));
  expect(server.mock.calls).toEqual([
    ['uploads.settle', { uploadIds: keys.slice(0, 6) }],
    ['uploads.settle', { uploadIds: ['g'] }],
  ]);
  expect(onFiled).toHaveBeenCalledTimes(7);
});

it('says with the filing which values a file has, and keeps which were not taken over', async () => {
  const { queue } = await begun([]);
  const cells = { Status: 'Final' };
  queue.add([{ item: item('a', { sizeBytes: large, cells }), file: new File(['text'], 'a.txt') }]);
  await settled();
  const notSet = ['Status: “Final” is not on the list.'];
  await arrive(sent[0], { state: 'filed', documentId: 'paper', placeId: 'here', notSet });
  expect(server.mock.calls).toEqual([['uploads.settle', { uploadIds: ['a'], cells: { a: cells } }]]);
  expect(queue.items()).toMatchObject([{ state: 'filed', notSet }]);
  expect(queueTotals(queue.items())).toMatchObject({ filed: 1, needing: 1 });
});

it('tells colleagues once, when all files are over, of those that were filed', async () => {
  const { queue, onTold } = await begun(['a', 'b'], undefined, 20_000, ['ruari']);
  const filed = { state: 'filed', documentId: 'paper', placeId: 'here' };
  await arrive(sent[0], filed);
  expect(server.mock.calls.map(([name]) => name)).toEqual(['uploads.settle']);
  const told = { told: 1, notTold: [] };
  server.mockImplementation((name) => Promise.resolve(name === 'uploads.tell' ? told : null));
  await queue.cancel('b');
  await settled();
  const calls = () => server.mock.calls.filter(([name]) => name === 'uploads.tell');
  expect(calls()).toEqual([['uploads.tell', { uploadIds: ['a'], personIds: ['ruari'] }]]);
  expect(onTold).toHaveBeenCalledWith(told);
  // What was told is not told again with the next files.
  queue.add([{ item: item('c', { sizeBytes: 10 }), file: new File(['text'], 'c.txt') }]);
  await settled();
  await arrive(sent.at(-1), filed);
  expect(calls()).toHaveLength(1);
});

it('goes on with what was broken off: what is filed is not sent again, what has arrived is filed', async () => {
  const { queue, states } = await begun([]);
  const known = (uploadId: string, receivedBytes: number, outcome: object | null) => ({
    uploadId,
    receivedBytes,
    outcome,
  });
  server.mockResolvedValueOnce([
    known('filed', 1000, { state: 'filed', documentId: 'paper', placeId: 'here' }),
    known('arrived', 1000, null),
    known('half', 500, null),
  ]);
  server.mockResolvedValueOnce([
    { uploadId: 'arrived', outcome: { state: 'filed', documentId: 'other', placeId: 'here' } },
  ]);
  await queue.goOnWith(
    ['filed', 'arrived', 'half', 'new'].map((key) => ({ item: item(key), file: new File(['text'], `${key}.txt`) })),
  );
  await settled();
  expect(states()).toEqual(['filed', 'filed', 'sending', 'sending']);
});

it('stops sending while it is paused, and goes on from there', async () => {
  const { queue, states } = await begun(['a', 'b', 'c']);
  await queue.pause();
  await settled();
  expect(states()).toEqual(['waiting', 'waiting', 'waiting']);
  queue.resume();
  await settled();
  expect([...states()].sort()).toEqual(['sending', 'sending', 'waiting']);
});

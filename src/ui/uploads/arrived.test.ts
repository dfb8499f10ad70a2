import { queueItem } from '../../../tests/queueItem';
import { call } from '../server/call';
import { fileArrived } from './arrived';
import { batchLeft, forgetFiles } from './batch';

jest.mock('./batch', () => ({ batchLeft: jest.fn(), forgetFiles: jest.fn(() => Promise.resolve()) }));
jest.mock('../server/call', () => ({ call: jest.fn() }));
const server = call as unknown as jest.Mock<Promise<unknown>, [string, { uploadIds: string[] }]>;
const left = batchLeft as unknown as jest.Mock;

const filed = { state: 'filed', documentId: 'paper', title: 'A', placeId: 'p1', versionNumber: 1 };
const batch = { placeName: 'May', items: new Map(['a', 'b'].map((key) => [key, queueItem(key, { tell: ['ruari'] })])) };

function serverKnows(known: readonly object[]): void {
  server.mockReset();
  server.mockImplementation((name, { uploadIds }) =>
    Promise.resolve(
      name === 'uploads.known'
        ? known
        : name === 'uploads.settle'
          ? uploadIds.map((uploadId) => ({ uploadId, outcome: filed }))
          : { told: 1, notTold: [] },
    ),
  );
}
const asked = () => server.mock.calls.map(([name, { uploadIds }]) => [name, ...uploadIds]);

beforeEach(() => {
  left.mockResolvedValue(batch);
  jest.mocked(forgetFiles).mockClear();
});

it('files what had arrived whole, tells who was to be told of all, and forgets the batch', async () => {
  serverKnows([
    { uploadId: 'a', receivedBytes: 1000, outcome: filed },
    { uploadId: 'b', receivedBytes: 1000, outcome: null },
  ]);
  expect(await fileArrived('maren')).toBeNull();
  expect(asked()).toEqual([
    ['uploads.known', 'a', 'b'],
    ['uploads.settle', 'b'],
    ['uploads.tell', 'a', 'b'],
  ]);
  expect(forgetFiles).toHaveBeenCalledTimes(1);
});

it('leaves the batch where a file has not arrived, and tells nobody yet', async () => {
  serverKnows([{ uploadId: 'a', receivedBytes: 999, outcome: null }]);
  expect(await fileArrived('maren')).toBe(batch);
  expect(asked()).toEqual([['uploads.known', 'a', 'b']]);
  expect(forgetFiles).not.toHaveBeenCalled();
});

it('asks nothing where there is no batch', async () => {
  serverKnows([]);
  left.mockResolvedValue(null);
  expect(await fileArrived('maren')).toBeNull();
  expect(server).not.toHaveBeenCalled();
});

it('forgets no batch before colleagues were told, so that a page closed meanwhile tells them', async () => {
  serverKnows(['a', 'b'].map((uploadId) => ({ uploadId, receivedBytes: 1000, outcome: filed })));
  const order: string[] = [];
  jest.mocked(forgetFiles).mockImplementationOnce(() => Promise.resolve(void order.push('forgotten')));
  const known = server.getMockImplementation();
  server.mockImplementation((name, input) => {
    order.push(name);
    return known?.(name, input) ?? Promise.resolve(null);
  });
  await fileArrived('maren');
  expect(order).toEqual(['uploads.known', 'uploads.tell', 'forgotten']);
});

import fc from 'fast-check';
import { issue } from '../errors/issue';
import { queueItem as item } from '../../../tests/queueItem';
import { bytesPerSecond, secondsLeft, withReading, type Reading } from './pace';
import { FileQueue, isOver, isUnderWay, queueTotals, type QueueEvent, type QueueItem } from './queue';

function run(events: readonly QueueEvent[], start: readonly QueueItem[] = []): readonly QueueItem[] {
  const queue = new FileQueue();
  queue.apply({ type: 'added', items: start });
  for (const event of events) queue.apply(event);
  return queue.items();
}

describe('the queue of files', () => {
  it('takes a file from waiting to filed', () => {
    const [done] = run([
      { type: 'added', items: [item('a')] },
      { type: 'started', key: 'a', state: 'sending' },
      { type: 'known', key: 'a', uploadId: 'u1' },
      { type: 'progressed', key: 'a', sentBytes: 500, atMs: 10 },
      { type: 'started', key: 'a', state: 'checking' },
      { type: 'filed', key: 'a', documentId: 'd1', placeId: 'p2' },
    ]);
    expect(done).toMatchObject({ state: 'filed', uploadId: 'u1', documentId: 'd1', placeId: 'p2', sentBytes: 1000 });
  });

  it('does not let late news revive a file that is over', () => {
    const cancelled = [item('a', { state: 'cancelled' })];
    expect(
      run(
        [
          { type: 'progressed', key: 'a', sentBytes: 900, atMs: 1 },
          { type: 'filed', key: 'a', documentId: 'd', placeId: 'p' },
        ],
        cancelled,
      ),
    ).toEqual(cancelled);
  });

  it('sends what is not over to another place, and leaves what is filed', () => {
    const queue = run(
      [{ type: 'redirected', placeId: 'p9', placeName: 'June' }],
      [item('a'), item('b', { state: 'filed' })],
    );
    expect(queue.map((each) => each.placeName)).toEqual(['June', 'May']);
  });

  it('keeps a file once, however often it is added, and clears only what is over', () => {
    const queue = run([
      { type: 'added', items: [item('a')] },
      { type: 'added', items: [item('a'), item('b', { state: 'refused' })] },
      { type: 'cleared' },
    ]);
    expect(queue.map((each) => each.key)).toEqual(['a']);
  });

  it('counts what is filed, what needs a look and what has gone', () => {
    const totals = queueTotals([
      item('a', { state: 'filed', sentBytes: 1000 }),
      item('b', { state: 'sending', sentBytes: 250 }),
      item('c', { state: 'refused', issue: issue('too-large') }),
      item('d', { state: 'asking', sentBytes: 1000 }),
    ]);
    expect(totals).toMatchObject({ files: 4, filed: 1, needing: 2, underWay: 1, sentBytes: 2250, sizeBytes: 3000 });
  });

  it('never has a file both over and under way, nor more sent than it is long, whatever happens', () => {
    const key = fc.constantFrom('a', 'b');
    const event = fc.oneof<fc.Arbitrary<QueueEvent>[]>(
      fc.record({
        type: fc.constant('started' as const),
        key,
        state: fc.constantFrom('reading' as const, 'sending' as const, 'checking' as const),
      }),
      fc.record({ type: fc.constant('progressed' as const), key, sentBytes: fc.nat(2000), atMs: fc.nat(10_000) }),
      fc.record({ type: fc.constant('cancelled' as const), key }),
      fc.record({ type: fc.constant('retried' as const), key }),
      fc.record({ type: fc.constant('interrupted' as const), key, issue: fc.constant(issue('unavailable')) }),
      fc.record({ type: fc.constant('filed' as const), key, documentId: fc.constant('d'), placeId: fc.constant('p') }),
    );
    fc.assert(
      fc.property(fc.array(event, { maxLength: 30 }), (events) => {
        for (const each of run(events, [item('a'), item('b')])) {
          expect(isOver(each) && isUnderWay(each)).toBe(false);
          expect(each.sentBytes).toBeLessThanOrEqual(each.sizeBytes);
        }
      }),
      { seed: 5, numRuns: 1000 },
    );
  });
});

describe('the pace of an upload', () => {
  it('is what the last seconds say, not the whole', () => {
    const steady = Array.from({ length: 20 }, (_each, index): Reading => ({
      atMs: index * 1000,
      bytes: index < 10 ? 0 : (index - 10) * 500,
    }));
    const readings = steady.reduce<Reading[]>((kept, reading) => withReading(kept, reading), []);
    expect(bytesPerSecond(readings)).toBe(500);
    expect(readings.length).toBeLessThan(10);
  });

  it('says nothing before it can', () => {
    expect(bytesPerSecond([])).toBeNull();
    expect(bytesPerSecond([{ atMs: 5, bytes: 1 }])).toBeNull();
    expect(secondsLeft(100, 0)).toBeNull();
    expect(secondsLeft(100, 50)).toBe(2);
  });
});

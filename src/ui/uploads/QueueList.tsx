import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef } from 'react';
import type { QueueItem } from '@/core/uploads/queue';
import { QueueLine } from './QueueLine';
import type { UploadQueue } from './UploadQueue';

const lineHeight = 52;

/** What needs a person first, then what is on its way, what waits, and what is done. */
function rank({ state }: QueueItem): number {
  if (['asking', 'interrupted', 'lost', 'refused'].includes(state)) return 0;
  if (state === 'waiting') return 2;
  return ['reading', 'sending', 'checking'].includes(state) ? 1 : 3;
}

/** The files of the queue. A few stand in the order in which they came; of many only those in sight are drawn. */
export function QueueList({ items, queue }: { readonly items: readonly QueueItem[]; readonly queue: UploadQueue }) {
  const scroller = useRef<HTMLDivElement>(null);
  const isLong = items.length > 50;
  const order = useMemo(
    () => (isLong ? [...items].sort((one, other) => rank(one) - rank(other)) : items),
    [items, isLong],
  );
  const virtual = useVirtualizer({
    count: order.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => lineHeight,
    getItemKey: (index) => order[index]?.key ?? index,
    overscan: 6,
  });
  return (
    <div ref={scroller} className="overflow-y-auto">
      <ul className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map(({ index, key, start }) => {
          const item = order[index];
          return (
            item && (
              <QueueLine key={key} ref={virtual.measureElement} index={index} top={start} item={item} queue={queue} />
            )
          );
        })}
      </ul>
    </div>
  );
}

import { useEffect, useState } from 'react';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { useSurroundings } from '../surroundings/Surroundings';
import { fileArrived } from './arrived';
import { batchLeft, forgetBatch, isBeingFiled, type Batch } from './batch';
import { PickButtons } from './PickButtons';
import { useUploads } from './uploadsContext';

/**
 * Files that were on their way when the page was closed: what had arrived is filed, the others are chosen again. Nothing
 * is said while another window files.
 */
export function BatchLeft() {
  const { items, offer } = useUploads();
  const { me } = useSurroundings();
  const [left, setLeft] = useState<Batch | null>(null);
  useEffect(() => {
    // What cannot be filed now is still said to have been broken off.
    const look = async () => ((await isBeingFiled(me.id)) ? null : fileArrived(me.id).catch(() => batchLeft(me.id)));
    void look().then(setLeft);
  }, [me.id]);
  const [first] = left?.items.values() ?? [];
  if (!left || !first || items.length > 0) return null;
  return (
    <section
      aria-label="Filing that was broken off"
      className="no-print fixed right-3 bottom-[54px] z-30 w-[min(440px,calc(100vw-24px))] rounded-sm border border-ember bg-sheet px-4 py-3 shadow-lg"
    >
      <p>
        Filing {counted(left.items.size, 'paper')} in <strong>{left.placeName}</strong> was broken off. Choose the same
        files, or the same folder, again: what has arrived is not sent twice.
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        <PickButtons onPick={(files) => offer(files, { id: first.placeId, name: first.placeName })} />
        <Button
          look="quiet"
          onClick={() => {
            setLeft(null);
            void forgetBatch(me.id);
          }}
        >
          Leave the rest
        </Button>
      </div>
    </section>
  );
}

'use client';

import { counted } from '@/core/text/measure';
import { asHeld, useHand } from '../hand/HandProvider';
import { call } from '../server/call';
import { useAsk } from '../server/useCall';

/** Required values that papers here lack; a click selects those papers. */
export function MissingNotice({ placeId }: { readonly placeId: string }) {
  const { data } = useAsk('values.missing', { placeId });
  const { pickUp, putAllDown } = useHand();

  async function take(documentIds: readonly string[]) {
    const papers = await call('papers.rows', { documentIds: [...documentIds] });
    putAllDown();
    pickUp(papers.map((paper) => asHeld(paper, paper.homeName)));
  }
  return (
    <>
      {data?.map((each) => (
        <button
          key={each.columnId}
          type="button"
          title="Picks them up, to be described together"
          onClick={() => void take(each.documentIds)}
          className="text-ember-ink underline underline-offset-2"
        >
          {counted(each.papers, 'paper')} {each.papers === 1 ? 'needs' : 'need'} a {each.name.toLowerCase()}
        </button>
      ))}
    </>
  );
}

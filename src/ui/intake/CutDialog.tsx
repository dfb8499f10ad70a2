'use client';

import { useState } from 'react';
import type { Turn } from '@/core/intake/cut';
import type { ArrivalSheet } from '@/core/intake/contract';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { moved, PageCard, smallButton } from './PageCard';

/** A page of a scan as it lies on the table. */
interface Lying {
  readonly page: number;
  readonly turn: Turn;
  readonly isOut: boolean;
  /** A new paper begins with it. */
  readonly begins: boolean;
}

/** A scan over its small pages: they are turned, moved and left out, and new papers begun. */
export function CutDialog({
  sheet: { id: arrivalId, revision, subject },
  onDone,
  onClose,
}: {
  readonly sheet: ArrivalSheet;
  readonly onDone: () => void;
  readonly onClose: () => void;
}) {
  const { data, error } = useAsk('arrival.reading', { arrivalId, attachment: null });
  return (
    <Dialog title={`Pages of ${subject}`} open onClose={onClose} shape="sheet">
      {error && <p role="alert">{saysOf(error)}</p>}
      {data && data.pages === null && <p>Its pages are still being made.</p>}
      {data && data.pages !== null && (
        <Table
          {...{ arrivalId, revision, pages: data.pages }}
          onCut={() => {
            onClose();
            onDone();
          }}
          onClose={onClose}
        />
      )}
    </Dialog>
  );
}

function Table({
  arrivalId,
  revision,
  pages,
  onCut,
  onClose,
}: {
  readonly arrivalId: string;
  readonly revision: number;
  readonly pages: number;
  readonly onCut: () => void;
  readonly onClose: () => void;
}) {
  const cut = useAct('arrival.cut', { quiet: true });
  const back = useAct('arrival.takeBack');
  const [lying, setLying] = useState<readonly Lying[]>(() =>
    Array.from({ length: pages }, (_none, at) => ({ page: at + 1, turn: 0, isOut: false, begins: at === 0 })),
  );
  const change = (at: number, part: Partial<Lying>) =>
    setLying(lying.map((each, index) => (index === at ? { ...each, ...part } : each)));
  const papers = papersOf(lying);
  const send = () =>
    cut.mutate(
      { arrivalId, revision, papers: papers.map((its) => ({ pages: its.map(({ page, turn }) => ({ page, turn })) })) },
      {
        onSuccess: () => {
          say.undoable(`The scan becomes ${counted(papers.length, 'paper')}. It is kept as it came.`, () =>
            back.mutate({ arrivalId }),
          );
          onCut();
        },
      },
    );
  return (
    <>
      <p className="mb-2 text-soft">
        Turn, move or leave out pages, and say where a new paper begins. Each paper then waits for itself.
      </p>
      <ol aria-label="Pages" className="grid grid-cols-[repeat(auto-fill,minmax(132px,1fr))] gap-2">
        {lying.map((each, at) => (
          <PageCard
            key={each.page}
            name={`page ${each.page}`}
            caption={`Page ${each.page}${each.isOut ? ', left out' : `, paper ${papers.findIndex((its) => its.includes(each)) + 1}`}`}
            address={`/api/arrival/${arrivalId}?page=${each.page}`}
            turn={each.turn}
            isOut={each.isOut}
            isMarked={each.begins && !each.isOut}
            isFirst={at === 0}
            isLast={at === lying.length - 1}
            onTurn={(turn) => change(at, { turn })}
            onMove={(by) => setLying(moved(lying, at, by))}
          >
            <Button
              className={smallButton}
              aria-label={`Leave out page ${each.page}`}
              aria-pressed={each.isOut}
              onClick={() => change(at, { isOut: !each.isOut })}
            >
              {each.isOut ? 'Take in' : 'Leave out'}
            </Button>
            <Button
              className={smallButton}
              aria-label={`New paper from page ${each.page}`}
              aria-pressed={each.begins}
              disabled={at === 0}
              onClick={() => change(at, { begins: !each.begins })}
            >
              New paper
            </Button>
          </PageCard>
        ))}
      </ol>
      {cut.error && (
        <p role="alert" className="mt-2 text-ember-ink">
          {saysOf(cut.error)}
        </p>
      )}
      <DialogActs>
        <Button onClick={onClose}>Cancel</Button>
        <Button look="main" disabled={papers.length === 0 || cut.isPending} onClick={send}>
          Make {counted(papers.length, 'paper')} of it
        </Button>
      </DialogActs>
    </>
  );
}

/** The pages of each paper, in their order. */
function papersOf(lying: readonly Lying[]): Lying[][] {
  const papers: Lying[][] = [];
  let isNew = true;
  for (const each of lying) {
    if (each.begins) isNew = true;
    if (each.isOut) continue;
    if (isNew) papers.push([]);
    isNew = false;
    papers.at(-1)?.push(each);
  }
  return papers;
}

'use client';

import { usePathname, useRouter } from 'next/navigation';
import { memo, useMemo, useState } from 'react';
import type { Names } from '@/core/columns/format';
import type { Column } from '@/core/columns/model';
import type { PlacedPaper } from '@/core/documents/contract';
import type { Label } from '@/core/labels/model';
import { placeAddress } from '@/core/places/common';
import type { PlaceRow } from '@/core/places/model';
import { paperAddress, type Spot } from '@/core/search/spot';
import { findsIn } from '@/core/views/conditions';
import type { Display, HeadingLine } from '@/core/views/display';
import type { Sort } from '@/core/views/spec';
import { Ledger } from '../documents/Ledger';
import { rememberOrder } from '../documents/neighbours';
import type { useLedgerColumns } from '../documents/useLedgerColumns';
import { usePaperActs } from '../documents/usePaperActs';
import { asHeld, useHand } from '../hand/HandProvider';
import { say } from '../kit/notice';
import { useStable } from '../kit/useStable';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { Covers } from './Covers';
import { Passages } from './Passages';
import { useGroupValue } from './useGroupValue';
import type { View } from './useView';
import type { ViewState } from './useViewState';
import { measuresInWords } from './viewWords';

interface Props {
  readonly placeId: string;
  readonly placeName: string;
  readonly view: View;
  readonly viewState: ViewState;
  readonly display: Display;
  readonly onFold: (path: string) => void;
  readonly places: readonly PlaceRow[];
  readonly addressOf: ((place: PlaceRow) => string) | undefined;
  readonly columns: readonly Column[];
  readonly shown: ReturnType<typeof useLedgerColumns>;
  readonly names: Names;
  readonly labels: ReadonlyMap<string, Label>;
  readonly mayAmend: boolean;
}

const LedgerOnce = memo(Ledger);
const CoversOnce = memo(Covers);
const PassagesOnce = memo(Passages);

/** The papers of a view in its layout, with all that is done to them there. */
export function ViewPapers(props: Props) {
  const { placeId, placeName, view, viewState, display, places, columns, shown, names, labels, mayAmend } = props;
  const { state, setState, spec, setSpec } = viewState;
  const router = useRouter();
  const pathname = usePathname();
  const [find = null] = useMemo(() => findsIn(spec.conditions), [spec.conditions]);
  const { library } = useSurroundings();
  const hand = useHand();
  const { dispose } = usePaperActs();
  const reorder = useAct('papers.reorder');
  const takeValue = useGroupValue(columns);
  const [renaming, setRenaming] = useState<string | null>(null);
  const ticked = useMemo<ReadonlySet<string>>(() => new Set(hand.held.keys()), [hand.held]);
  const papers = view.page?.totals?.papers ?? view.lines;
  const measures = view.page?.measures;
  const measureWords = useMemo(
    () => (heading: HeadingLine) => measuresInWords(heading.group.totals, measures ?? [], columns, names),
    [measures, columns, names],
  );
  const lines = useMemo(
    () => shown.all.filter((column) => spec.covers.lines.includes(column.key)),
    [shown.all, spec.covers.lines],
  );
  const inDraggedOrder = mayAmend && spec.sorts[0]?.of === 'order' && !spec.below && spec.groupings.length === 0;

  const onSort = useStable((of: string, more: boolean) => {
    const there = spec.sorts.find((sort) => sort.of === of);
    const isFirst = spec.sorts.length === 0 && of === 'title' && find === null;
    const isUp = isFirst || there?.direction === 'up';
    const next: Sort = { of: of as Sort['of'], direction: isUp ? 'down' : 'up' };
    // Without sorts papers go by their titles, or the best first where words are looked for.
    if (!more) return setSpec({ sorts: of === 'title' && !isUp && find === null ? [] : [next] });
    setSpec({
      sorts: there ? spec.sorts.map((sort) => (sort === there ? next : sort)) : [...spec.sorts, next].slice(0, 5),
    });
  });
  const onTick = useStable((some: readonly PlacedPaper[], tick: boolean) => {
    if (!tick) return hand.putDown(some.map((paper) => paper.id));
    hand.pickUp(some.map((row) => asHeld(row, row.homeName)));
  });
  const onTickLines = useStable((start: number, count: number) => {
    view.fetchLines(start, count).then(
      (rows) => {
        onTick(rows, true);
        if (rows.length < Math.min(count, view.lines - start))
          say.refusal(
            `At most 5,000 papers are picked up at once: these are the first ${rows.length.toLocaleString('en-GB')}.`,
          );
      },
      (error: unknown) => say.refusal(saysOf(error)),
    );
  });
  const onOpenPaper = useStable((id: string, spot: Spot = {}) => {
    const at = pathname === '/find' ? 'find' : placeId === library.rootId ? 'all' : placeId;
    rememberOrder(view.rows.map((row) => row.id));
    // The address first has to say which paper is chosen: written later, it would undo the step to another page.
    void setState({ paper: id }).then((address) =>
      router.push(paperAddress(id, spot, { from: address.toString(), at })),
    );
  });
  const onOpenPlace = useStable((id: string) => {
    const opened = places.find((each) => each.id === id);
    const address = opened && props.addressOf ? props.addressOf(opened) : placeAddress(id);
    void setState({ paper: id }).then(() => router.push(address));
  });
  const onDispose = useStable((ids: readonly string[]) => {
    const wanted = new Set(ids);
    const known = [...hand.held.values(), ...view.rows].filter((each) => wanted.has(each.id));
    const unique = [...new Map(known.map((each) => [each.id, each])).values()];
    void dispose(unique).then((done) => done && hand.putDown(ids));
  });
  const onPutBefore = useStable((beforeId: string, moved: readonly { readonly id: string }[]) =>
    reorder.mutate({ documentIds: moved.map((paper) => paper.id), beforeId }),
  );
  const onTakeValue = useStable((heading: HeadingLine, dropped: readonly { id: string; title: string }[]) =>
    takeValue(heading, spec.groupings, dropped),
  );
  const onCursor = useStable((id: string) => void setState({ paper: id }));
  const onFold = useStable(props.onFold);
  const onWidth = useStable(shown.setWidth);

  const shared = {
    label: `Papers in ${placeName}`,
    display,
    paperAt: view.paperAt,
    onSight: view.onSight,
    cursor: state.paper,
    onCursor,
    ticked,
    onTick,
    onTickLines,
    onFold,
    onTakeValue,
    measureWords,
    onOpenPaper,
    names,
  };
  if (spec.layout === 'passages' && find !== null) return <PassagesOnce {...shared} find={find} />;
  if (spec.layout === 'covers') return <CoversOnce {...shared} size={spec.covers.size} lines={lines} />;
  return (
    <LedgerOnce
      {...shared}
      places={places}
      papers={papers}
      orderKey={view.key}
      columns={shown.shown}
      frozen={spec.frozen}
      onWidth={onWidth}
      labels={labels}
      sorts={spec.sorts}
      onSort={onSort}
      onPutBefore={inDraggedOrder ? onPutBefore : undefined}
      onOpenPlace={onOpenPlace}
      renaming={renaming}
      onRename={setRenaming}
      onDispose={onDispose}
      mayAmend={mayAmend}
    />
  );
}

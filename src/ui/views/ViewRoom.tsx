'use client';

import { useQueryClient } from '@tanstack/react-query';
import { useMemo, useState, type ReactNode } from 'react';
import type { PlacedPaper } from '@/core/documents/contract';
import type { PlaceRow } from '@/core/places/model';
import { counted } from '@/core/text/measure';
import { conditionsIn } from '@/core/views/conditions';
import { displayOf } from '@/core/views/display';
import { propertyName, senseOf } from '@/core/views/property';
import type { ViewPage } from '@/core/views/contract';
import type { SavedView } from '@/core/views/saved';
import { withoutGone, type ViewSpec } from '@/core/views/spec';
import { namesFrom, useColumns } from '../columns/useColumns';
import { Docket } from '../documents/Docket';
import { SeveralDocket } from '../documents/SeveralDocket';
import { useFitted } from '../documents/useFitted';
import { useLedgerColumns } from '../documents/useLedgerColumns';
import { ValueGrid } from '../columns/ValueGrid';
import { useHand } from '../hand/HandProvider';
import { Button } from '../kit/button';
import { say } from '../kit/notice';
import { useLabels } from '../labels/useLabels';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { Columns } from '../layout/Columns';
import { useSurroundings } from '../surroundings/Surroundings';
import { CountChart } from './CountChart';
import { useView } from './useView';
import { useViewState } from './useViewState';
import { ViewBar } from './ViewBar';
import { ViewDialogs } from './ViewDialogs';
import { ViewPapers } from './ViewPapers';
import type { FrontTab } from './ViewTabs';
import { ViewToolbar, type ViewDialogKind } from './ViewToolbar';
import { measuresInWords, papersMeasure, totalsInWords, useConditionWords } from './viewWords';

interface Props {
  readonly placeId: string;
  readonly placeName: string;
  readonly seriesId: string;
  /** What the tab without a saved view is called, and how it looks where the person has not chosen. */
  readonly plainWords: string;
  readonly plainView: ViewSpec;
  /** Views that are always there. */
  readonly readyViews?: readonly SavedView[];
  /** Which of those opens by itself; then they are all: the views that people saved there are of another page. */
  readonly opensReady?: string;
  /** A page of the place's own that stands before its views. */
  readonly front?: FrontTab | undefined;
  readonly places: readonly PlaceRow[];
  /** Where each of them is opened. */
  readonly addressOf?: (place: PlaceRow) => string;
  readonly mayAmend: boolean;
  /** Columns that the place fixes, whose values are the same in every row. */
  readonly fixedHere: ReadonlySet<string>;
  readonly where: ReactNode;
  readonly strip: ReactNode;
  readonly notices: ReactNode;
  /** Whether titles are not filtered by a field of their own: the page has one for words. */
  readonly withoutFilter?: boolean;
  /** What is to be said of an answer, above the papers. */
  readonly above?: (page: ViewPage) => ReactNode;
  readonly placeDocket: ReactNode;
  readonly empty: ReactNode;
}

const noViews: readonly SavedView[] = [];
/** The editor holds its papers at once. */
const mostEdited = 20_000;

/** The papers of a place as views show them: tabs, conditions, layout, and the docket beside. */
export function ViewRoom(props: Props) {
  const { placeId, placeName, seriesId, mayAmend, readyViews = noViews } = props;
  const { library } = useSurroundings();
  const at = useAsk('views.at', { placeId });
  const savedHere = props.opensReady === undefined ? at.data : undefined;
  const views = useMemo(() => [...(savedHere?.views ?? []), ...readyViews], [savedHere, readyViews]);
  const viewState = useViewState(
    views,
    savedHere?.opensId ?? props.opensReady ?? null,
    props.plainView,
    props.front?.opens,
  );
  const { state, setState, spec, setSpec, saved } = viewState;
  const { paper: cursor, filter } = state;
  const { columns: inForce, lexicons } = useColumns(placeId);
  const columns = spec.below ? (at.data?.columns ?? inForce) : inForce;
  const shown = useLedgerColumns(seriesId, columns, props.fixedHere, { spec, isPlain: saved === null, setSpec });
  const measures = useMemo(() => {
    const measured = columns.filter((column) => ['number', 'amount', 'date'].includes(column.type));
    const orders = spec.groupings.map((grouping) => grouping.order);
    return measured.map(({ id }) => id).filter((id) => shown.wanted.includes(id) || orders.includes(id));
  }, [columns, shown.wanted, spec.groupings]);
  // Before all columns are known none of them is gone.
  const usable = useMemo(
    () => withoutGone(spec, (of) => at.data === undefined || senseOf(of, columns) !== null),
    [spec, at.data, columns],
  );
  const asked = [...new Set(conditionsIn(spec.conditions).map((each) => each.of))];
  const view = useView({
    placeId,
    below: spec.below,
    filter,
    conditions: spec.conditions,
    groupings: usable.groupings,
    sorts: usable.sorts,
    // What is looked for has no values to count.
    counts: asked.filter((of) => !['find', null].includes(senseOf(of, columns))),
    measures,
  });
  const { page } = view;
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const groups = useMemo(() => page?.groups ?? [], [page]);
  const display = useMemo(() => displayOf(groups, view.lines, folded), [groups, view.lines, folded]);
  const names = useMemo(() => namesFrom(lexicons, view.names), [lexicons, view.names]);
  const fittedColumns = useFitted(shown, view.rows, names);
  const labels = useLabels();
  const words = useConditionWords(columns, lexicons, page?.counts ?? {}, labels, library);
  const queries = useQueryClient();
  const hand = useHand();
  const [editing, setEditing] = useState<readonly PlacedPaper[] | null>(null);
  const [dialog, setDialog] = useState<ViewDialogKind | null>(null);
  const [chart, setChart] = useState(false);

  const searched = filter.trim().toLocaleLowerCase('en-GB');
  const narrowed = searched !== '' || spec.conditions.length > 0;
  // Of the view that opens by itself the page says what belongs there.
  const isOpening =
    saved !== null && saved.id === props.opensReady && searched === '' && spec.conditions === saved.spec.conditions;
  // Places stand before the papers that lie beside them; under groups or through all places below they say nothing.
  const alone = spec.below || spec.groupings.length > 0 || spec.layout === 'covers';
  const places = useMemo(
    () =>
      alone
        ? []
        : props.places.filter((each) => searched === '' || each.name.toLocaleLowerCase('en-GB').includes(searched)),
    [alone, props.places, searched],
  );
  const papers = page?.totals?.papers ?? view.lines;
  const heldHere = view.rows.reduce((count, row) => count + Number(hand.held.has(row.id)), 0);
  const cursorIsPlace = props.places.some((each) => each.id === cursor);
  const measured = page?.totals ? measuresInWords(page.totals, page.measures, columns, names) : { short: '', long: '' };

  async function edit() {
    const all: PlacedPaper[] = [];
    const most = Math.min(view.lines, mostEdited);
    while (all.length < most) {
      const more = await view.fetchLines(all.length, most - all.length);
      if (more.length === 0) break;
      all.push(...more);
    }
    setEditing(all);
    if (view.lines > all.length)
      say.refusal(
        `These are the first ${all.length.toLocaleString('en-GB')} lines. Narrow the view to edit the others.`,
      );
  }

  const body = () => {
    if (view.error && !viewState.gone)
      return (
        <div role="alert" className="flex flex-1 items-start gap-3 bg-sheet p-6">
          <p>{saysOf(view.error)}</p>
          <Button onClick={() => viewState.openView(null)}>Show the plain ledger</Button>
        </div>
      );
    if (editing)
      return (
        <ValueGrid
          label={`Values of the papers in ${placeName}`}
          papers={editing}
          columns={inForce.length > 0 ? inForce : columns}
          lexicons={lexicons}
          names={view.names}
          onClose={() => {
            setEditing(null);
            void queries.invalidateQueries();
          }}
        />
      );
    // What words find is not known before the library has been read.
    if (props.withoutFilter && page?.state === 'counting')
      return (
        <p aria-busy className="flex-1 bg-sheet p-6 text-soft">
          Looking, once the library has been read…
        </p>
      );
    if (page && papers === 0 && places.length === 0)
      return narrowed && !props.withoutFilter && !isOpening ? (
        <p className="grid flex-1 place-items-center bg-sheet p-8 text-soft">
          No papers match. Remove a condition, or show all.
        </p>
      ) : (
        props.empty
      );
    return (
      <div className="flex min-h-0 flex-1">
        <ViewPapers
          addressOf={props.addressOf}
          {...{ placeId, placeName, view, viewState, display, places, columns, names, labels, mayAmend }}
          shown={fittedColumns}
          onFold={(path) =>
            setFolded((before) =>
              before.has(path) ? new Set([...before].filter((each) => each !== path)) : new Set([...before, path]),
            )
          }
        />
        {chart && (
          <aside aria-label="Chart" className="w-[340px] shrink-0 overflow-y-auto border-l border-line bg-sheet p-3">
            {groups.length === 0 ? (
              <p className="text-sm text-soft">Group the papers by something: the chart counts the groups.</p>
            ) : (
              <CountChart
                label={`${placeName}, by ${propertyName(spec.groupings[0]?.of ?? '', columns).toLowerCase()}`}
                groups={groups}
                measure={papersMeasure}
              />
            )}
          </aside>
        )}
      </div>
    );
  };

  return (
    <Columns
      where={props.where}
      docket={
        hand.held.size > 1 && heldHere !== 1 ? (
          <SeveralDocket papers={[...hand.held.values()]} placeId={placeId} />
        ) : cursor && !cursorIsPlace ? (
          <Docket documentId={cursor} />
        ) : (
          props.placeDocket
        )
      }
      docketOpen={cursor !== null && !cursorIsPlace}
      docketWanted={hand.held.size > 1 && heldHere > 1}
      onDocketClose={() => void setState({ paper: null })}
    >
      {props.strip}
      <ViewToolbar
        {...{ placeId, placeName, views, readyViews, viewState, columns, shown, groups, chart }}
        plainWords={props.plainWords}
        front={props.front}
        onFolded={setFolded}
        onChart={setChart}
        onDialog={setDialog}
        mayManage={at.data?.mayShare ?? false}
        editing={editing !== null}
        onEdit={
          mayAmend && columns.length > 0 && papers > 0
            ? () => {
                if (editing) setEditing(null);
                else edit().catch((error: unknown) => say.refusal(saysOf(error)));
              }
            : undefined
        }
      />
      <ViewBar
        viewState={viewState}
        plainView={props.plainView}
        everywhere={placeId === library.rootId}
        columns={columns}
        counts={page?.counts ?? {}}
        words={words}
        counted={{
          short:
            page?.state === 'counting'
              ? 'Counting once the library has been read…'
              : page?.totals
                ? `${places.length > 0 ? `${counted(places.length, 'place')} · ` : ''}${totalsInWords(page.totals)}${measured.short}`
                : '',
          long: measured.long,
        }}
        notices={props.notices}
        withoutFilter={props.withoutFilter ?? false}
        onDialog={setDialog}
      />
      {viewState.gone && !at.isPending && (
        <p role="alert" className="border-b border-line bg-sheet px-4 py-2">
          That view no longer exists, or is not shared with you. This is the plain ledger.
        </p>
      )}
      {usable.missing > 0 && (
        <p role="status" className="border-b border-line bg-sheet px-4 py-1.5 text-sm text-soft">
          The view is also grouped or sorted by a column that is no longer in use; that part is left out.
        </p>
      )}
      {page && !view.isStale && props.above?.(page)}
      {body()}
      <ViewDialogs
        {...{ dialog, placeId, placeName, spec, setSpec, saved, filter, columns, shown }}
        at={at.data}
        onSaved={viewState.openView}
        onClose={() => setDialog(null)}
      />
    </Columns>
  );
}

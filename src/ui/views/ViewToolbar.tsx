'use client';

import { useRouter } from 'next/navigation';
import type { Column } from '@/core/columns/model';
import type { NamedGroup } from '@/core/views/contract';
import { pathsFrom } from '@/core/views/display';
import { findsIn, needsTally } from '@/core/views/conditions';
import { propertyName } from '@/core/views/property';
import type { SavedView } from '@/core/views/saved';
import type { Layout, Sort } from '@/core/views/spec';
import type { useLedgerColumns } from '../documents/useLedgerColumns';
import { Button } from '../kit/button';
import { useFollow } from '../follow/useFollow';
import { useBookmarks } from '../bookmarks/useBookmarks';
import { Menu, type MenuAct } from '../kit/menu';
import { say } from '../kit/notice';
import { useAct } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { groupable, groupingBy } from './ArrangeDialog';
import { downloadView } from './downloadView';
import type { ViewState } from './useViewState';
import { ViewTabs, type FrontTab } from './ViewTabs';

const layoutWords: Readonly<Record<Layout, string>> = { ledger: 'Ledger', covers: 'Covers', passages: 'Passages' };

/** The orders that are asked for most where words are looked for; all others are in the dialog. */
const orders: readonly { readonly label: string; readonly sorts: readonly Sort[] }[] = [
  { label: 'Best first', sorts: [] },
  { label: 'Newest first', sorts: [{ of: 'changedAt', direction: 'down' }] },
  { label: 'By title', sorts: [{ of: 'title', direction: 'up' }] },
];

/** Which dialog of a view is open. */
export type ViewDialogKind = 'arrange' | 'columns' | 'cross' | 'save' | 'change' | 'link' | 'hold';

interface Props {
  readonly placeId: string;
  readonly placeName: string;
  readonly plainWords: string;
  readonly views: readonly SavedView[];
  readonly readyViews: readonly SavedView[];
  readonly viewState: ViewState;
  readonly front?: FrontTab | undefined;
  readonly columns: readonly Column[];
  readonly shown: ReturnType<typeof useLedgerColumns>;
  readonly groups: readonly NamedGroup[];
  readonly onFolded: (paths: ReadonlySet<string>) => void;
  readonly chart: boolean;
  readonly onChart: (chart: boolean) => void;
  readonly onDialog: (dialog: ViewDialogKind) => void;
  readonly mayManage: boolean;
  readonly editing: boolean;
  /** Left out where there is nothing to edit. */
  readonly onEdit: (() => void) | undefined;
}

/** The tabs of a place's views, and the menus that arrange what is shown. */
export function ViewToolbar(props: Props) {
  const { placeId, placeName, plainWords, views, readyViews, viewState, columns, shown, groups } = props;
  const { onFolded, chart, onChart, onDialog, mayManage, editing, onEdit } = props;
  const router = useRouter();
  const { me, seenBy } = useSurroundings();
  const bookmarks = useBookmarks();
  const following = useFollow('view', viewState.saved?.id ?? '', viewState.saved?.name ?? '');
  const removeView = useAct('view.remove');
  const reorderView = useAct('view.reorder');
  const { saved, spec, setSpec } = viewState;
  const { filter } = viewState.state;
  const asTaken = () => ({
    placeId,
    below: spec.below,
    filter,
    conditions: spec.conditions,
    groupings: spec.groupings,
    sorts: spec.sorts,
    columns: shown.shown.map((column) => column.key),
    name: saved?.name ?? placeName,
  });
  const tabs: MenuAct[] = [
    { label: 'Save as a view…', act: () => onDialog('save') },
    ...(saved?.mayChange && !readyViews.includes(saved)
      ? [
          { label: 'Name, purpose and for whom…', act: () => onDialog('change') },
          {
            label: 'Move its tab to the front',
            act: () => {
              const first = views.find(
                (each) => each.placeId === saved.placeId && each.id !== saved.id && each.mayChange,
              );
              reorderView.mutate({ viewId: saved.id, beforeId: first?.id ?? null });
            },
          },
          {
            label: 'Remove the view',
            act: () =>
              removeView.mutate(
                { viewId: saved.id, revision: saved.revision },
                {
                  onSuccess: () => {
                    viewState.openView(null);
                    say.done(`Removed the view “${saved.name}”. No paper was affected.`);
                  },
                },
              ),
          },
        ]
      : []),
    ...(bookmarks.isOwn && saved && !readyViews.includes(saved)
      ? [
          {
            label: bookmarks.isBookmarked({ kind: 'view', ref: saved.id }) ? 'Remove the bookmark' : 'Bookmark',
            act: () => bookmarks.turn({ on: { kind: 'view', ref: saved.id }, name: saved.name }),
          },
        ]
      : []),
    ...(saved && !readyViews.includes(saved) ? following : []),
    {
      label: 'Copy as a link',
      act: () => {
        void navigator.clipboard.writeText(window.location.href).then(
          () => say.done('Copied. It opens the same slice for a colleague, with what is open to them.'),
          () => say.refusal('The link could not be copied. It is the address of this page.'),
        );
      },
      apart: true,
    },
    ...(mayManage ? [{ label: 'Outside link to this view…', act: () => onDialog('link') }] : []),
    ...(me.keeper && seenBy === null && !needsTally(spec.conditions)
      ? [{ label: 'Hold what it shows…', act: () => onDialog('hold') }]
      : []),
    {
      label: 'Print the list…',
      act: () => window.open(`/print/${placeId}${window.location.search}`, '_blank', 'noopener'),
    },
    { label: 'Download as CSV', act: () => downloadView('csv', asTaken()) },
    { label: 'Download as Excel', act: () => downloadView('xlsx', asTaken()) },
  ];
  const groupBy = spec.groupings[0]?.of ?? null;
  const isOrder = (sorts: readonly Sort[]) => JSON.stringify(sorts) === JSON.stringify(spec.sorts);
  const layoutActs: MenuAct[] = [
    { label: 'Ledger', checked: spec.layout === 'ledger', act: () => setSpec({ layout: 'ledger' }) },
    { label: 'Covers', checked: spec.layout === 'covers', act: () => setSpec({ layout: 'covers' }) },
    ...(findsIn(spec.conditions).length > 0
      ? [{ label: 'Passages', checked: spec.layout === 'passages', act: () => setSpec({ layout: 'passages' }) }]
      : []),
    ...(spec.layout === 'covers'
      ? [
          ...(['small', 'middling', 'large'] as const).map((size, at_) => ({
            label: { small: 'Small covers', middling: 'Middling covers', large: 'Large covers' }[size],
            checked: spec.covers.size === size,
            act: () => setSpec({ covers: { ...spec.covers, size } }),
            apart: at_ === 0,
          })),
          ...shown.all.slice(0, 14).map((column, at_) => ({
            label: `Under each: ${column.heading.toLowerCase()}`,
            checked: spec.covers.lines.includes(column.key),
            act: () => {
              const { lines } = spec.covers;
              setSpec({
                covers: {
                  ...spec.covers,
                  lines: lines.includes(column.key)
                    ? lines.filter((key) => key !== column.key)
                    : [...lines, column.key].slice(-6),
                },
              });
            },
            apart: at_ === 0,
          })),
        ]
      : []),
  ];

  return (
    <div className="flex min-h-[35px] flex-wrap items-center gap-x-1.5 border-b border-line bg-sheet px-4">
      <ViewTabs
        views={views}
        placeId={placeId}
        open={saved}
        plainWords={plainWords}
        front={props.front}
        onOpen={(viewId) => {
          onFolded(new Set());
          viewState.openView(viewId);
        }}
        acts={tabs}
      />
      <Menu
        look="quiet"
        className="px-1!"
        label="Group"
        acts={[
          { label: 'No groups', checked: groupBy === null, act: () => setSpec({ groupings: [] }) },
          ...groupable(columns).map((of, at_) => ({
            label: propertyName(of, columns),
            checked: groupBy === of,
            act: () => setSpec({ groupings: [groupingBy(of, columns)] }),
            apart: at_ === 0,
          })),
          { label: 'Groups within groups, and sorting…', act: () => onDialog('arrange'), apart: true },
          { label: 'Chart beside the groups', checked: chart, act: () => onChart(!chart) },
          { label: 'Cross-table of two…', act: () => onDialog('cross') },
          ...(groups.length > 0
            ? [
                { label: 'Fold all groups', act: () => onFolded(new Set(pathsFrom(groups))) },
                { label: 'Unfold all groups', act: () => onFolded(new Set()) },
              ]
            : []),
        ]}
      />
      {spec.layout === 'passages' && (
        <Menu
          look="quiet"
          className="px-1!"
          label={orders.find((each) => isOrder(each.sorts))?.label ?? 'Sorted'}
          name="Order"
          acts={orders.map(({ label, sorts }) => ({
            label,
            checked: isOrder(sorts),
            act: () => setSpec({ sorts: [...sorts] }),
          }))}
        />
      )}
      <Menu look="quiet" className="px-1!" label={layoutWords[spec.layout]} name="Layout" acts={layoutActs} />
      <Menu
        look="quiet"
        className="px-1!"
        label="Columns"
        acts={[
          ...shown.all.map((column) => ({
            label: column.heading,
            checked: shown.wanted.includes(column.key),
            act: () => shown.toggle(column.key),
          })),
          { label: 'Order, widths and what stays in sight…', act: () => onDialog('columns'), apart: true },
          { label: 'Columns of this place…', act: () => router.push(`/columns/${placeId}`) },
        ]}
      />
      {onEdit && (
        <Button look="quiet" className="px-1!" aria-pressed={editing} onClick={onEdit}>
          Edit values
        </Button>
      )}
    </div>
  );
}

'use client';

import { horizontalListSortingStrategy, SortableContext, useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import clsx from 'clsx';
import { usePathname, useRouter } from 'next/navigation';
import { useState, type KeyboardEvent } from 'react';
import type { PlaceRow } from '@/core/places/model';
import { Link } from '../kit/link';
import { NameDialog } from '../forms/NameDialog';
import { CheckField, TextField } from '../kit/field';
import { useAct, useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

/** The dividers of the cabinet: my desk, then the series. The open one joins the page beneath it. */
export function SeriesTabs() {
  const { me } = useSurroundings();
  const path = usePathname();
  const { data: series } = useAsk('places.series', {});
  const placeId = /^\/(?:place|plan|access|columns)\/(?<id>[^/]+)/u.exec(path)?.groups?.['id'];
  const { data: lies } = useAsk('place.seriesOf', { placeId: placeId ?? '' }, { enabled: placeId !== undefined });
  const [adding, setAdding] = useState(false);
  return (
    <nav
      aria-label="Series"
      className="no-print flex h-[38px] shrink-0 items-end gap-1 overflow-x-auto bg-brine-deep px-4"
    >
      <Tab href="/desk" label="My desk" open={path === '/desk'} />
      <SortableContext
        items={(series ?? []).map((each) => `where-${each.id}`)}
        strategy={horizontalListSortingStrategy}
        disabled={!me.keeper}
      >
        {series?.map((each) => (
          <SeriesTab
            key={each.id}
            series={each}
            beside={series}
            mayOrder={me.keeper}
            open={placeId !== undefined && lies?.seriesId === each.id}
          />
        ))}
      </SortableContext>
      <Tab href="/all" label="All papers" open={path === '/all'} />
      {me.keeper && (
        <button
          type="button"
          onClick={() => setAdding(true)}
          className="h-[32px] px-3 font-condensed whitespace-nowrap text-on-brine-soft hover:text-on-brine"
        >
          + Series
        </button>
      )}
      {adding && <NewSeries onClose={() => setAdding(false)} />}
    </nav>
  );
}

const tabLook = (open: boolean): string =>
  clsx(
    'flex shrink-0 items-center rounded-t-[6px] px-4 font-condensed whitespace-nowrap focus-visible:-outline-offset-2',
    open ? 'h-[35px] bg-fog text-ink' : 'h-[32px] bg-brine text-on-brine hover:brightness-115',
  );

function Tab({ href, label, open }: { readonly href: string; readonly label: string; readonly open: boolean }) {
  return (
    <Link href={href} aria-current={open ? 'page' : undefined} className={tabLook(open)}>
      {label}
    </Link>
  );
}

/** The tab of a series; a keeper puts it elsewhere by dragging, or by Alt with the arrows, and all see it there. */
function SeriesTab({
  series,
  beside,
  mayOrder,
  open,
}: {
  readonly series: PlaceRow;
  readonly beside: readonly PlaceRow[];
  readonly mayOrder: boolean;
  readonly open: boolean;
}) {
  const reorder = useAct('place.reorder');
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({
    id: `where-${series.id}`,
    data: { kind: 'where', place: series, parentId: series.parentId },
    disabled: !mayOrder,
  });

  function onKeyDown(event: KeyboardEvent) {
    if (!mayOrder || !event.altKey || (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight')) return;
    event.preventDefault();
    const at = beside.findIndex((each) => each.id === series.id);
    const isBack = event.key === 'ArrowLeft';
    if (isBack ? at === 0 : at === beside.length - 1) return;
    reorder.mutate({ placeId: series.id, beforeId: beside[isBack ? at - 1 : at + 2]?.id ?? null });
  }

  return (
    <Link
      ref={setNodeRef}
      {...listeners}
      href={`/place/${series.id}`}
      draggable={false}
      aria-current={open ? 'page' : undefined}
      aria-keyshortcuts={mayOrder ? 'Alt+ArrowLeft Alt+ArrowRight' : undefined}
      onKeyDown={onKeyDown}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={clsx(tabLook(open), isDragging && 'relative z-10 opacity-70')}
    >
      {series.name}
    </Link>
  );
}

function NewSeries({ onClose }: { readonly onClose: () => void }) {
  const router = useRouter();
  const create = useAct('series.create', { quiet: true });
  const [pattern, setPattern] = useState('');
  const [byYear, setByYear] = useState(true);
  return (
    <NameDialog
      title="New series"
      label="Name"
      help="A kind of file: Board & committees, Suppliers, Works."
      act="Make the series"
      onClose={onClose}
      onSave={async (name) => {
        const made = await create.mutateAsync({
          name,
          referencePattern: pattern.trim() === '' ? null : pattern,
          byYear,
        });
        router.push(`/place/${made.id}`);
      }}
    >
      <TextField
        label="Reference pattern"
        value={pattern}
        onChange={(event) => setPattern(event.target.value)}
        help="Optional. # stands for a digit of the running number, {yy} for the filing year: T-###, W-{yy}-##."
      />
      <CheckField
        label="Filed by year"
        checked={byYear}
        onChange={setByYear}
        help="Each dossier has a place for each filing year. Not for jobs, policies and the like, which run on over the years."
      />
    </NameDialog>
  );
}

'use client';

import { useRouter } from 'next/navigation';
import { parseAsJson, parseAsString, parseAsStringLiteral, useQueryStates } from 'nuqs';
import { useMemo, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { directions } from '@/core/documents/model';
import { mayHoldPapers, type PlacePage } from '@/core/places/model';
import { counted, sizeInWords } from '@/core/text/measure';
import { conditionsSchema, type Conditions } from '@/core/views/conditions';
import { MissingNotice } from '../columns/MissingNotice';
import { namesFrom, useColumns } from '../columns/useColumns';
import { Docket } from '../documents/Docket';
import { Ledger } from '../documents/Ledger';
import { SeveralDocket } from '../documents/SeveralDocket';
import { useLedger } from '../documents/useLedger';
import { useLedgerColumns } from '../documents/useLedgerColumns';
import { usePaperActs } from '../documents/usePaperActs';
import { ValueGrid } from '../editing/ValueGrid';
import { asHeld, useHand } from '../hand/HandProvider';
import { Button } from '../kit/button';
import { Menu } from '../kit/menu';
import { useLabels } from '../labels/useLabels';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { Columns } from '../shell/Columns';
import { ConditionsBar } from '../views/ConditionsBar';
import { useQueryClient } from '@tanstack/react-query';
import { useUploads } from '../uploads/uploadsContext';
import { PlaceDocket } from './PlaceDocket';
import { PlaceStrip } from './PlaceStrip';
import { Where } from './Where';

/** What of a place's screen stands in its address: back works, and a link opens the same for a colleague. */
const addressed = {
  paper: parseAsString,
  sort: parseAsString.withDefault('title'),
  direction: parseAsStringLiteral(directions).withDefault('up'),
  filter: parseAsString.withDefault(''),
  if: parseAsJson(conditionsSchema),
};

const noConditions: Conditions = [];

/** The page of a place: where, strip, ledger and docket. */
export function PlaceRoom({ initial }: { readonly initial: PlacePage }) {
  const placeId = initial.place.id;
  const router = useRouter();
  const { data, error } = useAsk('place.open', { placeId }, { initialData: initial });
  const page = data ?? initial;
  const [state, setState] = useQueryStates(addressed);
  const { paper: cursor, sort, direction, filter } = state;
  const conditions = state.if ?? noConditions;
  const ledger = useLedger({ placeId, sort, direction, filter, conditions });
  const { columns, lexicons } = useColumns(placeId);
  const given = useAsk('given.of', { placeId });
  const fixedHere = useMemo(
    () => new Set(given.data?.inForce.filter((each) => each.mode === 'fixed').map((each) => each.columnId) ?? []),
    [given.data],
  );
  const labels = useLabels();
  const queries = useQueryClient();
  const [editing, setEditing] = useState(false);
  const seriesId = page.path[0]?.id ?? placeId;
  const shown = useLedgerColumns(seriesId, columns, fixedHere);
  const names = useMemo(() => namesFrom(lexicons, ledger.names), [lexicons, ledger.names]);
  const [renaming, setRenaming] = useState<string | null>(null);
  const hand = useHand();
  const { offer } = useUploads();
  const { dispose } = usePaperActs();
  const may = new Set(page.capabilities);
  const mayFile = may.has('add') && mayHoldPapers(page.place.kind) && !page.place.closed;
  const pageDrop = useDropzone({
    noClick: true,
    noKeyboard: true,
    disabled: !mayFile,
    onDrop: (files) => offer(files, page.place),
  });
  const words = filter.trim().toLocaleLowerCase('en-GB');
  const places =
    words === '' ? page.children : page.children.filter((each) => each.name.toLocaleLowerCase('en-GB').includes(words));
  const chosenHere = ledger.rows.filter((row) => hand.held.has(row.id));
  const cursorIsPlace = page.children.some((each) => each.id === cursor);

  function onSort(next: string) {
    void setState({ sort: next, direction: next === sort && direction === 'up' ? 'down' : 'up' });
  }

  function onTick(ids: readonly string[], tick: boolean) {
    if (!tick) return hand.putDown(ids);
    const wanted = new Set(ids);
    hand.pickUp(ledger.rows.filter((row) => wanted.has(row.id)).map((row) => asHeld(row, placeId)));
  }

  if (error) return <p className="p-6">{saysOf(error)}</p>;
  const nothing = ledger.totals?.papers === 0 && places.length === 0;
  return (
    <div {...pageDrop.getRootProps()} className="relative flex min-h-0 min-w-0 flex-1">
      <Columns
        where={<Where page={page} seriesId={seriesId} />}
        docket={
          hand.held.size > 1 && chosenHere.length !== 1 ? (
            <SeveralDocket papers={[...hand.held.values()]} placeId={placeId} />
          ) : cursor && !cursorIsPlace ? (
            <Docket documentId={cursor} />
          ) : (
            <PlaceDocket page={page} />
          )
        }
        docketOpen={cursor !== null && !cursorIsPlace}
        onDocketClose={() => void setState({ paper: null })}
      >
        <PlaceStrip
          page={page}
          mayFile={mayFile}
          inForce={given.data?.inForce ?? []}
          columns={columns}
          names={namesFrom(lexicons, given.data?.names ?? {})}
        />
        <div className="flex min-h-[27px] items-center gap-x-3 border-b border-line bg-sheet px-4 py-1 text-sm">
          {may.has('amend') && <MissingNotice placeId={placeId} />}
          <span role="status" className="figures ml-auto text-soft">
            {places.length > 0 && `${counted(places.length, 'place')} · `}
            {ledger.totals &&
              `${counted(ledger.totals.papers, 'paper')}${ledger.totals.pages > 0 ? ` · ${counted(ledger.totals.pages, 'page')}` : ''}${ledger.totals.papers > 0 ? ` · ${sizeInWords(ledger.totals.sizeBytes)}` : ''}`}
          </span>
        </div>
        <div className="flex flex-wrap items-center gap-x-2 gap-y-1 border-b border-line bg-sheet px-4 py-1.5">
          <input
            type="search"
            aria-label="Filter what is shown"
            placeholder="Filter what is shown"
            value={filter}
            onChange={(event) =>
              void setState({ filter: event.target.value === '' ? null : event.target.value }, { throttleMs: 150 })
            }
            className="h-[28px] w-40 rounded-sm border border-edge bg-sheet px-2 placeholder:text-soft"
          />
          <ConditionsBar
            placeId={placeId}
            filter={filter}
            columns={columns}
            labels={labels}
            conditions={conditions}
            onConditions={(next) =>
              void setState({
                if: next.length === 0 ? null : next.map((each) => ({ ...each, anyOf: [...each.anyOf] })),
              })
            }
          />
          {(filter !== '' || conditions.length > 0) && (
            <Button look="quiet" onClick={() => void setState({ filter: null, if: null })}>
              Show all
            </Button>
          )}
          <span className="ml-auto" />
          <Menu
            label="Columns"
            acts={[
              ...shown.all.map((column) => ({
                label: column.heading,
                checked: shown.shown.some((each) => each.key === column.key),
                act: () => shown.toggle(column.key),
              })),
              { label: 'Columns of this place…', act: () => router.push(`/columns/${placeId}`), apart: true },
            ]}
          />
          {may.has('amend') && columns.length > 0 && (ledger.totals?.papers ?? 0) > 0 && (
            <Button aria-pressed={editing} onClick={() => setEditing(!editing)}>
              Edit values
            </Button>
          )}
        </div>
        {editing && ledger.rows.length > 0 ? (
          <ValueGrid
            label={`Values of the papers in ${page.place.name}`}
            papers={ledger.rows}
            columns={columns}
            lexicons={lexicons}
            names={ledger.names}
            onClose={() => {
              setEditing(false);
              void queries.invalidateQueries();
            }}
          />
        ) : nothing ? (
          <Empty
            filtered={filter !== '' || conditions.length > 0}
            mayFile={mayFile}
            page={page}
            onFile={() => offer([], page.place)}
          />
        ) : (
          <Ledger
            label={`Papers in ${page.place.name}`}
            places={places}
            papers={ledger.rows}
            total={Math.max(ledger.totals?.papers ?? 0, ledger.rows.length)}
            columns={shown.shown}
            names={names}
            labels={labels}
            sort={sort}
            direction={direction}
            onSort={onSort}
            cursor={cursor}
            onCursor={(id) => void setState({ paper: id })}
            ticked={new Set(hand.held.keys())}
            onTick={onTick}
            // The address first has to say which paper is chosen: written later, it would undo the step to another page.
            onOpenPaper={(id) =>
              void setState({ paper: id }).then((address) =>
                router.push(`/paper/${id}?from=${encodeURIComponent(address.toString())}`),
              )
            }
            onOpenPlace={(id) => void setState({ paper: id }).then(() => router.push(`/place/${id}`))}
            renaming={renaming}
            onRename={setRenaming}
            onDispose={(ids) => {
              const wanted = new Set(ids);
              void dispose(ledger.rows.filter((row) => wanted.has(row.id))).then((done) => done && hand.putDown(ids));
            }}
            mayAmend={may.has('amend')}
          />
        )}
      </Columns>
      {pageDrop.isDragActive && (
        <div className="pointer-events-none absolute inset-2 z-20 grid place-items-center rounded-sm border-2 border-dashed border-brine-ink bg-brine-wash/85 font-condensed text-xl">
          Let go to file in {page.place.name}
        </div>
      )}
    </div>
  );
}

function Empty({
  filtered,
  mayFile,
  page,
  onFile,
}: {
  readonly filtered: boolean;
  readonly mayFile: boolean;
  readonly page: PlacePage;
  readonly onFile: () => void;
}) {
  const words = filtered
    ? 'No paper here is like that. Take a condition away, or show all.'
    : page.place.bareStep
      ? 'This is only a step on the way: nothing directly in it is open to you.'
      : mayFile
        ? `Papers of ${page.place.name} belong here. Drop files anywhere on this page, or choose them.`
        : 'Nothing is filed here yet.';
  return (
    <div className="grid flex-1 place-items-center bg-sheet p-8">
      <div className="max-w-sm text-center">
        <p className="text-soft">{words}</p>
        {mayFile && !filtered && (
          <Button className="mt-3" onClick={onFile}>
            File papers in {page.place.name}
          </Button>
        )}
      </div>
    </div>
  );
}

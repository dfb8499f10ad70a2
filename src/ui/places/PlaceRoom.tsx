'use client';

import { useRouter } from 'next/navigation';
import { parseAsString, parseAsStringLiteral, useQueryStates } from 'nuqs';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { directions, ledgerSorts, type LedgerSort } from '@/core/documents/model';
import { mayHoldPapers, type PlacePage } from '@/core/places/model';
import { counted, sizeInWords } from '@/core/text/measure';
import { Docket } from '../documents/Docket';
import { Ledger } from '../documents/Ledger';
import { SeveralDocket } from '../documents/SeveralDocket';
import { useLedger } from '../documents/useLedger';
import { usePaperActs } from '../documents/usePaperActs';
import { asHeld, useHand } from '../hand/HandProvider';
import { Button } from '../kit/button';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { Columns } from '../shell/Columns';
import { useUploads } from '../uploads/uploadsContext';
import { PlaceDocket } from './PlaceDocket';
import { PlaceStrip } from './PlaceStrip';
import { Where } from './Where';

/** What of a place's screen stands in its address: back works, and a link opens the same for a colleague. */
const addressed = {
  paper: parseAsString,
  sort: parseAsStringLiteral(ledgerSorts).withDefault('title'),
  direction: parseAsStringLiteral(directions).withDefault('up'),
  filter: parseAsString.withDefault(''),
};

/** The page of a place: where, strip, ledger and docket. */
export function PlaceRoom({ initial }: { readonly initial: PlacePage }) {
  const placeId = initial.place.id;
  const router = useRouter();
  const { data, error } = useAsk('place.open', { placeId }, { initialData: initial });
  const page = data ?? initial;
  const [state, setState] = useQueryStates(addressed);
  const { paper: cursor, sort, direction, filter } = state;
  const ledger = useLedger({ placeId, sort, direction, filter });
  const [renaming, setRenaming] = useState<string | null>(null);
  const hand = useHand();
  const { offer } = useUploads();
  const { dispose } = usePaperActs();
  const may = new Set(page.capabilities);
  const seriesId = page.path[0]?.id ?? placeId;
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

  function onSort(next: LedgerSort) {
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
          chosenHere.length > 1 ? (
            <SeveralDocket papers={chosenHere} />
          ) : cursor && !cursorIsPlace ? (
            <Docket documentId={cursor} />
          ) : (
            <PlaceDocket page={page} />
          )
        }
        docketOpen={cursor !== null && !cursorIsPlace}
        onDocketClose={() => void setState({ paper: null })}
      >
        <PlaceStrip page={page} mayFile={mayFile} />
        <div className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-sheet px-4 py-1.5">
          <input
            type="search"
            aria-label="Filter what is shown"
            placeholder="Filter what is shown"
            value={filter}
            onChange={(event) =>
              void setState({ filter: event.target.value === '' ? null : event.target.value }, { throttleMs: 150 })
            }
            className="h-[28px] w-56 rounded-sm border border-edge bg-sheet px-2 placeholder:text-soft"
          />
          {filter !== '' && (
            <Button look="quiet" onClick={() => void setState({ filter: null })}>
              Show all
            </Button>
          )}
          <span role="status" className="figures ml-auto text-sm text-soft">
            {places.length > 0 && `${counted(places.length, 'place')} · `}
            {ledger.totals &&
              `${counted(ledger.totals.papers, 'paper')}${ledger.totals.pages > 0 ? ` · ${counted(ledger.totals.pages, 'page')}` : ''}${ledger.totals.papers > 0 ? ` · ${sizeInWords(ledger.totals.sizeBytes)}` : ''}`}
          </span>
        </div>
        {nothing ? (
          <Empty filtered={filter !== ''} mayFile={mayFile} page={page} onFile={() => offer([], page.place)} />
        ) : (
          <Ledger
            label={`Papers in ${page.place.name}`}
            places={places}
            papers={ledger.rows}
            total={Math.max(ledger.totals?.papers ?? 0, ledger.rows.length)}
            sort={sort}
            direction={direction}
            onSort={onSort}
            cursor={cursor}
            onCursor={(id) => void setState({ paper: id })}
            ticked={new Set(hand.held.keys())}
            onTick={onTick}
            onOpenPaper={(id) => router.push(`/paper/${id}`)}
            onOpenPlace={(id) => router.push(`/place/${id}`)}
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
    ? 'Nothing here goes by these words.'
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

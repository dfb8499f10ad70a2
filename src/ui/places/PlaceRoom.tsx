'use client';

import { useMemo, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { droppedFiles } from '../uploads/droppedFiles';
import type { PlacePage } from '@/core/places/model';
import { mayHoldPapers } from '@/core/tree/placeKind';
import { plainView } from '@/core/views/spec';
import { MissingNotice } from '../columns/MissingNotice';
import { namesFrom, useColumns } from '../columns/useColumns';
import { Button } from '../kit/button';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { useUploads, type VersionedPaper } from '../uploads/uploadsContext';
import { paperUnder } from '../uploads/versionDrop';
import { ViewRoom } from '../views/ViewRoom';
import { PlaceDocket } from './PlaceDocket';
import { GlanceRoom } from '../expected/GlanceRoom';
import { RackRoom } from '../expected/RackRoom';
import { ViewTabs } from '../views/ViewTabs';
import { useLook } from '../views/useLook';
import { PlaceStrip } from './PlaceStrip';
import { childAddress } from '../layout/addresses';
import { useFront } from './useFront';
import { Where } from './Where';

/** Whether all papers of a place lie in places below it: then these are shown at once. By what was so when the page was opened, so that nothing jumps. */
const holdsNoneItself = ({ place, children }: PlacePage): boolean =>
  place.paperCount > 0 && children.reduce((sum, child) => sum + child.paperCount, 0) >= place.paperCount;

/** The page of a place: where, strip, its views and the docket. */
export function PlaceRoom({ initial }: { readonly initial: PlacePage }) {
  const placeId = initial.place.id;
  const { data, error } = useAsk('place.open', { placeId, withinId: initial.withinId }, { initialData: initial });
  const page = data ?? initial;
  const { columns, lexicons } = useColumns(placeId);
  const given = useAsk('given.of', { placeId });
  const fixedHere = useMemo(
    () => new Set(given.data?.inForce.filter((each) => each.mode === 'fixed').map((each) => each.columnId) ?? []),
    [given.data],
  );
  const seriesId = page.path[0]?.id ?? placeId;
  const { offer, offerVersion } = useUploads();
  const [over, setOver] = useState<VersionedPaper | null>(null);
  const may = new Set(page.capabilities);
  const mayFile = may.has('add') && mayHoldPapers(page.place.kind) && !page.place.closed;
  const pageDrop = useDropzone({
    noClick: true,
    noKeyboard: true,
    getFilesFromEvent: droppedFiles,
    disabled: !mayFile,
    onDragOver: ({ target }) => setOver((before) => sameOr(before, paperUnder(target))),
    onDrop: (files, _refused, event) => {
      const [file] = files;
      const paper = files.length === 1 && 'target' in event ? paperUnder(event.target) : null;
      if (file && paper) offerVersion(file, paper);
      else offer(files, page.place);
    },
  });
  useLook(placeId);

  // Of a dossier that is only a step on the way there is nothing to be seen at a glance.
  const front = useFront(placeId, page.place.bareStep && page.place.kind === 'dossier' ? null : page.place.kind);

  if (error) return <p className="p-6">{saysOf(error)}</p>;
  const where = <Where page={page} seriesId={seriesId} />;
  const strip = (
    <PlaceStrip
      page={page}
      mayFile={mayFile}
      inForce={given.data?.inForce ?? []}
      columns={columns}
      names={namesFrom(lexicons, given.data?.names ?? {})}
    />
  );
  const plainWords = 'All papers here';
  const Front = page.place.kind === 'series' ? RackRoom : GlanceRoom;
  const placeDocket = <PlaceDocket page={page} />;
  return (
    <div {...pageDrop.getRootProps()} className="relative flex min-h-0 min-w-0 flex-1">
      {front?.isOpen ? (
        <Front
          page={page}
          where={where}
          head={
            <>
              {strip}
              <div className="flex items-end gap-4 border-b border-line bg-sheet px-4">
                <ViewTabs
                  views={front.views}
                  placeId={placeId}
                  open={null}
                  plainWords={plainWords}
                  front={front}
                  onOpen={front.openView}
                  acts={[]}
                />
              </div>
            </>
          }
          placeDocket={placeDocket}
        />
      ) : (
        <ViewRoom
          placeId={placeId}
          placeName={page.place.name}
          seriesId={seriesId}
          plainWords={plainWords}
          plainView={holdsNoneItself(initial) ? { ...plainView, below: true } : plainView}
          places={page.children}
          addressOf={(child) => childAddress(page, child)}
          mayAmend={may.has('amend')}
          fixedHere={fixedHere}
          where={where}
          strip={strip}
          front={front ?? undefined}
          notices={may.has('amend') && <MissingNotice placeId={placeId} />}
          placeDocket={placeDocket}
          empty={<Empty mayFile={mayFile} page={page} onFile={() => offer([], page.place)} />}
        />
      )}
      {pageDrop.isDragActive && (
        <div className="pointer-events-none absolute inset-2 z-20 grid place-items-center rounded-sm border-2 border-dashed border-brine-ink bg-brine-wash/85 font-condensed text-xl">
          {over ? `Drop as a new version of ${over.title}` : `Drop to file in ${page.place.name}`}
        </div>
      )}
    </div>
  );
}

/** The same object while it is the same paper: nothing is drawn again for each move of a hand. */
const sameOr = (before: VersionedPaper | null, now: VersionedPaper | null): VersionedPaper | null =>
  before?.id === now?.id ? before : now;

function Empty({
  mayFile,
  page,
  onFile,
}: {
  readonly mayFile: boolean;
  readonly page: PlacePage;
  readonly onFile: () => void;
}) {
  const words = page.place.bareStep
    ? 'This is shown only as a step to what is open to you: nothing directly in it is.'
    : mayFile
      ? `Papers of ${page.place.name} belong here. Drop files anywhere on this page, or choose them.`
      : 'Nothing is filed here yet.';
  return (
    <div className="grid flex-1 place-items-center bg-sheet p-8">
      <div className="max-w-sm text-center">
        <p className="text-soft">{words}</p>
        {mayFile && (
          <Button className="mt-3" onClick={onFile}>
            File papers in {page.place.name}
          </Button>
        )}
      </div>
    </div>
  );
}

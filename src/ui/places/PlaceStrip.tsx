'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { opennessInWords } from '@/core/access/words';
import { inWords, type Names } from '@/core/columns/format';
import type { Resolved } from '@/core/columns/given';
import type { Column } from '@/core/columns/model';
import { commonInWords } from '@/core/places/common';
import type { PlacePage } from '@/core/places/model';
import { mayHold } from '@/core/tree/placeKind';
import { AccessSheetDialog } from '../access/AccessSheetDialog';
import { GivenDialog } from '../columns/GivenDialog';
import { TableDialog } from '../columns/TableDialog';
import { DossiersDialog } from '../dossiers/DossiersDialog';
import { FieldsDialog } from '../dossiers/FieldsDialog';
import { MeetingsDialog } from '../meetings/MeetingsDialog';
import { NewNoteDialog } from '../notes/NewNoteDialog';
import { Button } from '../kit/button';
import { NewLinkDialog } from '../documents/NewLinkDialog';
import { useOfferActs } from '../kit/actsHere';
import { Link } from '../kit/link';
import { Menu, type MenuAct } from '../kit/menu';
import { useSurroundings } from '../surroundings/Surroundings';
import { useUploads } from '../uploads/uploadsContext';
import { stepAddress } from '../layout/addresses';
import { useFollow } from '../follow/useFollow';
import { ExportDialog } from '../exports/ExportDialog';
import { useBookmarkable } from '../bookmarks/useBookmarks';
import { HoldDialog } from '../holds/HoldDialog';
import { PlaceReviewsDialog } from '../reviews/PlaceReviewsDialog';
import { PlaceDialogs, type PlaceDialogKind } from './PlaceDialogs';
import { StandstillDialog } from './StandstillDialog';

/** What holds the place still, after who it is open to: nothing where nothing does. */
function stillInWords({ place, stillAbove }: PlacePage): string {
  if (place.closed || stillAbove.closed)
    return ` · closed${place.closed ? '' : ' above'}: nothing can be filed or changed`;
  if (place.locked || stillAbove.locked) return ` · locked${place.locked ? '' : ' above'}: what is here is not changed`;
  return '';
}

/** A folder of a dossier outside its years, or of the series itself, can be common to all; one that is can be one dossier's only. */
const mayBeCommon = ({ place, path, withinId }: PlacePage): boolean =>
  place.commonTo !== null ||
  (place.kind === 'folder' &&
    place.filingYear === null &&
    withinId === null &&
    (path.length === 1 || path.some((step) => step.kind === 'dossier')));

/** The strip over the papers: the way here, the name, who it is open to, and what can be done with the place. */
export function PlaceStrip({
  page,
  mayFile,
  inForce,
  columns,
  names,
}: {
  readonly page: PlacePage;
  readonly mayFile: boolean;
  readonly inForce: readonly (Resolved & { readonly columnId: string })[];
  readonly columns: readonly Column[];
  readonly names: Names;
}) {
  const { me, seenBy } = useSurroundings();
  const router = useRouter();
  const { offer } = useUploads();
  const [dialog, setDialog] = useState<
    | PlaceDialogKind
    | 'access'
    | 'given'
    | 'table'
    | 'still'
    | 'meetings'
    | 'dossiers'
    | 'fields'
    | 'note'
    | 'export'
    | 'link'
    | 'reviews'
    | 'hold'
    | null
  >(null);
  const { place } = page;
  const may = new Set(page.capabilities);
  const isYear = place.kind === 'year';
  const gives = columns.flatMap((column) => {
    const each = inForce.find((one) => one.columnId === column.id);
    return each ? [{ column, each }] : [];
  });
  const news: MenuAct[] = [
    ...(may.has('manage') && mayHold(place.kind, 'dossier')
      ? [
          { label: 'Dossier…', act: () => setDialog('dossier') },
          { label: 'Several dossiers…', act: () => setDialog('dossiers') },
        ]
      : []),
    ...(may.has('amend') && mayHold(place.kind, 'folder')
      ? [{ label: 'Folder…', act: () => setDialog('folder') }]
      : []),
    ...(mayFile && may.has('amend') ? [{ label: 'Note…', act: () => setDialog('note') }] : []),
    ...(mayFile ? [{ label: 'Web link…', act: () => setDialog('link') }] : []),
  ];
  const bookmarking = useBookmarkable({ on: { kind: 'place', ref: place.id }, name: place.name });
  const following = useFollow('place', place.id, place.name);
  const mayRename = may.has('amend') && !isYear && (place.kind !== 'series' || me.keeper);
  const acts: MenuAct[] = [
    ...(mayRename ? [{ label: 'Rename…', act: () => setDialog('rename') }] : []),
    ...(may.has('manage') && place.kind === 'dossier'
      ? [{ label: 'Reference…', act: () => setDialog('reference') }]
      : []),
    ...(may.has('manage') && place.kind === 'series'
      ? [{ label: 'Reference pattern…', act: () => setDialog('pattern') }]
      : []),
    ...(may.has('manage') && mayBeCommon(page)
      ? [
          {
            label: place.commonTo === null ? 'Make it common to all dossiers…' : 'Make it one dossier’s only…',
            act: () => setDialog('common'),
          },
        ]
      : []),
    ...(may.has('manage') && (place.kind === 'folder' || place.kind === 'dossier') && place.commonTo === null
      ? [{ label: 'Move…', act: () => setDialog('move') }]
      : []),
    ...(may.has('amend') ? [{ label: 'Colour mark…', act: () => setDialog('colour') }] : []),
    ...(may.has('manage') ? [{ label: 'What it gives its papers…', act: () => setDialog('given') }] : []),
    ...(may.has('amend') && place.kind === 'folder' && place.commonTo === null
      ? [{ label: 'The meeting whose folder it is…', act: () => setDialog('meeting') }]
      : []),
    ...(place.kind === 'series' && !place.bareStep
      ? [{ label: 'Filing plan…', act: () => router.push(`/plan/${place.id}`) }]
      : []),
    ...(may.has('manage') && place.kind === 'series'
      ? [{ label: 'Details of its dossiers…', act: () => setDialog('fields') }]
      : []),
    ...(place.kind === 'dossier' && !place.bareStep ? [{ label: 'Meetings…', act: () => setDialog('meetings') }] : []),
    ...(place.bareStep ? [] : [{ label: 'Packs…', act: () => router.push(`/packs/${place.id}`) }]),
    ...(place.bareStep ? [] : [{ label: 'Decisions and actions…', act: () => router.push(`/decisions/${place.id}`) }]),
    ...(place.bareStep ? [] : [...bookmarking, ...following]),
    ...(seenBy === null && may.has('take')
      ? [{ label: 'Export all that is in it…', act: () => setDialog('export') }]
      : []),
    { label: 'Columns…', act: () => router.push(`/columns/${place.id}`) },
    { label: 'Values as a table…', act: () => setDialog('table') },
    ...(may.has('manage') ? [{ label: 'Who can open it…', act: () => setDialog('access') }] : []),
    ...(place.bareStep ? [] : [{ label: 'Reviews…', act: () => setDialog('reviews') }]),
    ...(may.has('manage') ? [{ label: 'Close or lock…', act: () => setDialog('still') }] : []),
    ...(me.keeper && seenBy === null ? [{ label: 'Hold…', act: () => setDialog('hold') }] : []),
    ...(may.has('manage') && !isYear
      ? [{ label: 'Remove, if empty…', act: () => setDialog('remove'), apart: true }]
      : []),
  ];

  // The same by their full names, for those who do not leave the keyboard.
  useOfferActs([
    ...news.map(({ label, act }) => ({ label: `New ${label.charAt(0).toLowerCase()}${label.slice(1)}`, act })),
    ...acts,
  ]);

  return (
    <div className="flex flex-wrap items-start gap-x-3 gap-y-2 border-b border-line bg-sheet px-4 pt-3 pb-2.5">
      <div className="min-w-0 flex-1 basis-72">
        <div className="flex flex-wrap items-baseline gap-x-1.5">
          {page.path.map((step) => (
            <span key={step.id} className="text-sm text-soft">
              <Link href={stepAddress(page, step)} className="hover:text-ink hover:underline">
                {step.name}
              </Link>{' '}
              /
            </span>
          ))}
          {place.reference && <span className="font-mono text-soft">{place.reference}</span>}
          <h1 className="font-condensed text-xl leading-tight break-words">{place.name}</h1>
        </div>
        <p className="mt-0.5 text-sm text-soft">
          {place.bareStep ? (
            'Shown only as a step to what is open to you'
          ) : (
            <>
              {may.has('manage') ? (
                <button
                  type="button"
                  className="underline underline-offset-2 hover:text-ink"
                  onClick={() => setDialog('access')}
                >
                  {opennessInWords(page.openTo, page.capabilities)}
                </button>
              ) : (
                opennessInWords(page.openTo, page.capabilities)
              )}
              {place.commonTo !== null && ` · ${commonInWords(place.commonTo)}`}
              {page.followsName !== null && ` · follows ${page.followsName}`}
              {stillInWords(page)}
            </>
          )}
        </p>
      </div>
      <div className="flex gap-2">
        {news.length > 0 && <Menu label="New" acts={news} />}
        {acts.length > 0 && <Menu label="This place" acts={acts} />}
        {mayFile && (
          <Button look="main" onClick={() => offer([], place)}>
            File papers
          </Button>
        )}
      </div>
      {gives.length > 0 && (
        <p className="-mt-1 flex basis-full flex-wrap items-center gap-1 text-sm text-soft">
          Gives its papers
          {gives.map(({ column, each }) => (
            <span
              key={column.id}
              title={`${each.mode === 'fixed' ? 'Always so' : 'Filled in on arrival'}, as ${each.fromName} says`}
              className={`rounded-[3px] border px-1.5 text-xs leading-[19px] text-ink ${each.mode === 'fixed' ? 'border-edge' : 'border-dashed border-edge'}`}
            >
              {column.name}: {inWords(column, each.value, names)}
            </span>
          ))}
        </p>
      )}
      {dialog === 'reviews' && (
        <PlaceReviewsDialog place={place} mayAdd={may.has('manage')} onClose={() => setDialog(null)} />
      )}
      {dialog === 'hold' && (
        <HoldDialog
          on={{ placeIds: [place.id], documentIds: [], views: [] }}
          what={`“${place.name}”`}
          onClose={() => setDialog(null)}
        />
      )}
      {dialog === 'link' && <NewLinkDialog place={place} onClose={() => setDialog(null)} />}
      {dialog === 'export' && (
        <ExportDialog
          title={`Export all that is in ${place.name}`}
          places={[place.id]}
          onClose={() => setDialog(null)}
        />
      )}
      {dialog === 'note' && <NewNoteDialog place={place} onClose={() => setDialog(null)} />}
      {dialog === 'fields' && <FieldsDialog series={place} onClose={() => setDialog(null)} />}
      {dialog === 'dossiers' && <DossiersDialog series={place} onClose={() => setDialog(null)} />}
      {dialog === 'meetings' && (
        <MeetingsDialog dossier={place} mayChange={may.has('amend')} onClose={() => setDialog(null)} />
      )}
      {dialog === 'still' && <StandstillDialog page={page} onClose={() => setDialog(null)} />}
      {dialog === 'given' && <GivenDialog place={place} onClose={() => setDialog(null)} />}
      {dialog === 'table' && <TableDialog place={place} onClose={() => setDialog(null)} />}
      {dialog === 'access' ? (
        <AccessSheetDialog on={{ kind: 'place', id: place.id }} onClose={() => setDialog(null)} />
      ) : (
        dialog !== null &&
        dialog !== 'given' &&
        dialog !== 'still' &&
        dialog !== 'meetings' &&
        dialog !== 'dossiers' &&
        dialog !== 'fields' &&
        dialog !== 'note' &&
        dialog !== 'export' &&
        dialog !== 'link' &&
        dialog !== 'reviews' &&
        dialog !== 'hold' &&
        dialog !== 'table' && <PlaceDialogs kind={dialog} page={page} onClose={() => setDialog(null)} />
      )}
    </div>
  );
}

'use client';

import Link from 'next/link';
import { useState } from 'react';
import { openToWords } from '@/core/access/words';
import { mayHold, type PlacePage } from '@/core/places/model';
import { AccessSheetDialog } from '../access/AccessSheetDialog';
import { Button } from '../kit/button';
import { Menu, type MenuAct } from '../kit/menu';
import { useSurroundings } from '../shell/Surroundings';
import { useUploads } from '../uploads/uploadsContext';
import { PlaceDialogs, type PlaceDialogKind } from './PlaceDialogs';

/** The strip over the papers: the way here, the name, who it is open to, and what can be done with the place. */
export function PlaceStrip({ page, mayFile }: { readonly page: PlacePage; readonly mayFile: boolean }) {
  const { me } = useSurroundings();
  const { offer } = useUploads();
  const [dialog, setDialog] = useState<PlaceDialogKind | 'access' | null>(null);
  const { place } = page;
  const may = new Set(page.capabilities);
  const isYear = place.kind === 'year';
  const news: MenuAct[] = [
    ...(may.has('manage') && mayHold(place.kind, 'dossier')
      ? [{ label: 'Dossier…', act: () => setDialog('dossier') }]
      : []),
    ...(may.has('amend') && mayHold(place.kind, 'folder')
      ? [{ label: 'Folder…', act: () => setDialog('folder') }]
      : []),
  ];
  const mayRename = may.has('amend') && !isYear && (place.kind !== 'series' || me.keeper);
  const acts: MenuAct[] = [
    ...(mayRename ? [{ label: 'Rename…', act: () => setDialog('rename') }] : []),
    ...(may.has('manage') && place.kind === 'dossier'
      ? [{ label: 'Reference…', act: () => setDialog('reference') }]
      : []),
    ...(may.has('manage') && place.kind === 'series'
      ? [{ label: 'Reference pattern…', act: () => setDialog('pattern') }]
      : []),
    ...(may.has('manage') && (place.kind === 'folder' || place.kind === 'dossier')
      ? [{ label: 'Move…', act: () => setDialog('move') }]
      : []),
    ...(may.has('amend') ? [{ label: 'Colour mark…', act: () => setDialog('colour') }] : []),
    ...(may.has('manage') ? [{ label: 'Who can open it…', act: () => setDialog('access') }] : []),
    ...(may.has('manage') && !isYear
      ? [{ label: 'Remove, if empty…', act: () => setDialog('remove'), apart: true }]
      : []),
  ];

  return (
    <div className="flex flex-wrap items-start gap-x-3 gap-y-2 border-b border-line bg-sheet px-4 pt-3 pb-2.5">
      <div className="min-w-0 flex-1 basis-72">
        <p className="flex flex-wrap items-baseline gap-x-1.5">
          {page.path.map((step) => (
            <span key={step.id} className="text-sm text-soft">
              <Link href={`/place/${step.id}`} className="hover:text-ink hover:underline">
                {step.name}
              </Link>{' '}
              /
            </span>
          ))}
          {place.reference && <span className="font-mono text-soft">{place.reference}</span>}
          <h1 className="font-condensed text-xl leading-tight break-words">{place.name}</h1>
        </p>
        <p className="mt-0.5 text-sm text-soft">
          {place.bareStep ? (
            'Only a step on the way to what is open to you'
          ) : (
            <>
              {may.has('manage') ? (
                <button
                  type="button"
                  className="underline underline-offset-2 hover:text-ink"
                  onClick={() => setDialog('access')}
                >
                  {openToWords(page.openTo)}
                </button>
              ) : (
                openToWords(page.openTo)
              )}
              {page.followsName !== null && ` · follows ${page.followsName}`}
              {place.closed && ' · closed: nothing can be filed or changed'}
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
      {dialog === 'access' ? (
        <AccessSheetDialog placeId={place.id} onClose={() => setDialog(null)} />
      ) : (
        dialog !== null && <PlaceDialogs kind={dialog} page={page} onClose={() => setDialog(null)} />
      )}
    </div>
  );
}

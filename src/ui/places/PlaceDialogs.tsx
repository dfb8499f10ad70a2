'use client';

import { CommonDialog } from './CommonDialog';
import { ColourDialog } from './ColourDialog';
import { MeetingDayDialog } from './MeetingDayDialog';
import { MovePlaceDialog } from './MovePlaceDialog';
import { NewDossierDialog } from './NewDossierDialog';
import { NewFolderDialog } from './NewFolderDialog';
import { PatternDialog } from './PatternDialog';
import { ReferenceDialog } from './ReferenceDialog';
import { RemovePlaceDialog } from './RemovePlaceDialog';
import { RenamePlaceDialog } from './RenamePlaceDialog';
import type { PlaceDialogProps } from './placeDialog';

/** Which dialog is open. */
export type PlaceDialogKind =
  'dossier' | 'folder' | 'common' | 'rename' | 'reference' | 'pattern' | 'move' | 'colour' | 'meeting' | 'remove';

/** The dialogs in which a place is made, changed or moved. */
export function PlaceDialogs({ kind, ...props }: PlaceDialogProps & { readonly kind: PlaceDialogKind }) {
  switch (kind) {
    case 'dossier':
      return <NewDossierDialog {...props} />;
    case 'folder':
      return <NewFolderDialog {...props} />;
    case 'common':
      return <CommonDialog {...props} />;
    case 'rename':
      return <RenamePlaceDialog {...props} />;
    case 'reference':
      return <ReferenceDialog {...props} />;
    case 'pattern':
      return <PatternDialog {...props} />;
    case 'move':
      return <MovePlaceDialog placeId={props.page.place.id} name={props.page.place.name} onClose={props.onClose} />;
    case 'colour':
      return <ColourDialog {...props} />;
    case 'meeting':
      return <MeetingDayDialog {...props} />;
    case 'remove':
      return <RemovePlaceDialog {...props} />;
  }
}

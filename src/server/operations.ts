import type { OperationName, OutputOf, ReadInputOf } from '@/core/contract';
import type { Actor } from './access/actor';
import { accessSheet, forecastAccess, setAccess, subjectChoices } from './access/sheet';
import {
  disposePapers,
  forecastPaperMove,
  movePapers,
  putBackPapers,
  putInPlaces,
  renamePaper,
  restoreVersion,
  setNote,
} from './documents/amend';
import { docketOf } from './documents/docket';
import { disposedPapers, latelyChanged, ledgerPage } from './documents/ledger';
import { journalOf } from './journal/read';
import { changeSettings, librarySettings } from './library/settings';
import { changeGroup, createGroup, invite, listPeople, removeGroup, setActive, setKeeper } from './people/people';
import { recolourPlace, removePlace, renamePlace, reorderPlace, setPattern, setReference } from './places/amend';
import { choosePlaces } from './places/choose';
import { createDossier, createFolder, createSeries, openYear, proposeReference } from './places/create';
import { forecastMove, movePlace } from './places/move';
import { listChildren, listSeries, openPlace } from './places/open';
import { find } from './search/find';
import { outcomeOf } from './uploads/settle';
import { cancelUpload, redirectUploads, sameNames, unfinishedUploads } from './uploads/start';

/** Each operation of the contract, by the use-case that does it. The type leaves none out. */
export const operations: {
  readonly [N in OperationName]: (actor: Actor, input: ReadInputOf<N>) => Promise<OutputOf<N>>;
} = {
  'access.choices': subjectChoices,
  'access.forecast': forecastAccess,
  'access.set': setAccess,
  'access.sheet': accessSheet,
  'dossier.create': createDossier,
  'dossier.setReference': setReference,
  find,
  'folder.create': createFolder,
  'group.change': changeGroup,
  'group.create': createGroup,
  'group.remove': removeGroup,
  'journal.of': journalOf,
  'ledger.page': ledgerPage,
  'library.change': changeSettings,
  'library.settings': librarySettings,
  'paper.docket': docketOf,
  'paper.rename': renamePaper,
  'paper.restoreVersion': restoreVersion,
  'paper.setNote': setNote,
  'papers.dispose': disposePapers,
  'papers.disposed': disposedPapers,
  'papers.lately': latelyChanged,
  'papers.move': movePapers,
  'papers.moveForecast': forecastPaperMove,
  'papers.putBack': putBackPapers,
  'papers.putInPlaces': putInPlaces,
  'people.list': listPeople,
  'person.invite': invite,
  'person.setActive': setActive,
  'person.setKeeper': setKeeper,
  'place.children': listChildren,
  'place.move': movePlace,
  'place.moveForecast': forecastMove,
  'place.nextReference': proposeReference,
  'place.open': openPlace,
  'place.recolour': recolourPlace,
  'place.remove': removePlace,
  'place.rename': renamePlace,
  'place.reorder': reorderPlace,
  'places.choose': choosePlaces,
  'places.series': listSeries,
  'series.create': createSeries,
  'series.setPattern': setPattern,
  'upload.answer': (actor, { uploadId, ...answers }) => outcomeOf(actor, uploadId, answers),
  'upload.cancel': cancelUpload,
  'upload.outcome': (actor, { uploadId }) => outcomeOf(actor, uploadId),
  'upload.redirect': redirectUploads,
  'uploads.sameNames': sameNames,
  'uploads.unfinished': unfinishedUploads,
  'year.open': openYear,
};

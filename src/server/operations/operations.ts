// Over 400 lines: one line for each operation and where it is; a table has no better place to be cut.
import type { OperationName } from '@/core/contract';
import type { UseCase } from '../acts/operation';
import { addLink } from '../uploads/addLink';
import { askForExport, exportsOf, removeExport } from '../exports/jobs';
import { healthCounts, healthList } from '../health/health';
import { papersInHand, pickUp, putDown } from '../hand/hand';
import { findInside } from '../search/inside';
import { forgetSearches, recentSearches, rememberSearch } from '../search/recent';
import { whyFound } from '../search/why';
import { createNote, foreseeNote, noteFromPaper, noteStarts } from '../notes/create';
import { callForPaper, handInPaper, papersOwed, uncallPaper } from '../agenda/calls';
import { agreeMinutes, beginMinutes, minutesOf, writeInto } from '../minutes/minutes';
import { myActions, openActions, registerOf } from '../agenda/outcomes';
import { changeOutcome, noteAttendance, recordOutcome, removeOutcome, settleAction } from '../minutes/record';
import { keepNote, setNoteStart } from '../notes/keep';
import { beginNote, writeNote } from '../notes/write';
import { alikePapers } from '../likeness/alike';
import { fileAttachment } from '../uploads/fileAttachment';
import { setCover } from '../documents/cover';
import { setAccess, undoAccess, withdrawAccess } from '../access/change';
import { forecastAccess } from '../access/forecast';
import { accessMatrix } from '../access/matrix';
import { markPassed, passedByMe, passedToMe } from '../access/passed';
import { forecastStandstill, setLock, setStandstill } from '../standstill/standstill';
import { accessSheet, sortAddresses, subjectChoices } from '../access/sheet';
import { whyAccess } from '../access/why';
import { dropSecondStep, endSession, listDoor, openAccount } from '../account/open';
import { createToken, withdrawToken } from '../auth/tokens';
import { changeColumn, defineColumn, reorderColumn, retireColumn } from '../columns/define';
import { forecastGiven, givenOf, setGiven } from '../columns/given';
import {
  addTerm,
  changeTerm,
  createList,
  importList,
  listsWithUses,
  renameList,
  reorderTerm,
  retireTerm,
} from '../columns/lists';
import { forecastMerge, mergeTerm } from '../columns/mergeTerms';
import { columnsAt } from '../columns/read';
import { forecastType, setType } from '../columns/retype';
import { setCells, setValues, undoValues } from '../columns/setValues';
import { suggest } from '../columns/suggest';
import { applyTable, previewTable } from '../interchange/table';
import { missingValues, valueChoices, valuesOf } from '../columns/values';
import { forecastPaperMove, movePapers, putInPlaces, renamePaper, restoreVersion, setRemark } from '../documents/amend';
import { acrossPapers, acrossTotals } from '../across/chosen';
import { backupsOf } from '../backup/noted';
import { arrangeDesk, arrangementOf } from '../desk/arrangement';
import { bookmarksOf, putBookmark, removeBookmark, reorderBookmark } from '../desk/bookmarks';
import { figuresOf } from '../desk/figures';
import { keepersToAsk, lackingOf, openedLately } from '../desk/lately';
import { newsFor } from '../desk/news';
import { followedBy, newsOfFollowed, putFollow, removeFollow } from '../follow/follow';
import { setSummaryTimes, summaryTimesOf } from '../follow/summary';
import { destroyPapers } from '../disposal/destroy';
import { disposePapers, putBackPapers } from '../disposal/dispose';
import { disposedPapers } from '../disposal/list';
import { doReview, reviewOf, setOwnCycle, takeBackReview } from '../reviews/paper';
import { askForSignatures, callAgain, markOnPaper, releaseSigner, sealAgain, withdrawSignOff } from '../signoff/ask';
import { answerSignOff } from '../signoff/answer';
import { signOffLines } from '../signoff/lines';
import { signOffChoices, signOffsOf } from '../signoff/paper';
import { checkSeals } from '../seal/check';
import { removeReviewRule, reviewRules, setReviewRule } from '../reviews/rules';
import { reviewsOfMine } from '../reviews/mine';
import { extendHold, holdsOf, liftHold, listHolds, placeHold, releaseFromHold } from '../holds/holds';
import {
  foreseeSchedule,
  giveClass,
  keepingOf,
  putClass,
  removeClass,
  retentionClasses,
  takeClassAway,
  takeScheduleIn,
} from '../retention/classes';
import { abandonRun, approveRun, destroyRun, leaveOut, prepareRun } from '../retention/run';
import { listRuns, openRun } from '../retention/runs';
import { notCopiable } from '../documents/content';
import { actablePapers } from '../documents/actable';
import { copyPapers, forecastCopy, takeNewer } from '../documents/copy';
import { crossFile, forecastFiling, leavePlace, leavePlaces } from '../documents/crossFile';
import { docketOf } from '../documents/docket';
import { latelyChanged, papersByIds } from '../documents/ledger';
import { reorderPapers } from '../documents/reorder';
import { detailsOf, fieldsOf, setDetails, setFields } from '../dossiers/details';
import { checkDossiers, makeDossiers } from '../dossiers/dossiers';
import { gapsOf } from '../expected/gaps';
import { addAttendees, answerMeeting, changeAttendee, removeAttendee } from '../agenda/attendance';
import { beginAgenda } from '../agenda/begin';
import { addItems, changeItem, moveItem, removeItem, setAgenda } from '../agenda/items';
import { attachPapers, changePaper, detachPaper } from '../agenda/papers';
import { fileAgenda } from '../agenda/printed';
import { agendaSheet } from '../agenda/read';
import { fileArrival, setArrivalAside, takeArrivalBack, takeArrivalsBack } from '../intake/act';
import { agreeToArrivals, alikeArrivals } from '../intake/agree';
import { askAboutArrival, putArrivalOff } from '../intake/ask';
import { cutArrival } from '../intake/cut';
import { joinArrivals } from '../intake/join';
import { putIn } from '../intake/putIn';
import { arrivalFields, filingFields } from '../intake/fields';
import { filingRules, keepFilingRule, moveFilingRule, removeFilingRule, tryFilingRule } from '../intake/rules';
import { inStore, pickFromStore } from '../intake/ways/pick';
import { answerSenders, keepWayIn, lookNow, removeWayIn, restoreWayIn, waysIn } from '../intake/ways/ways';
import { arrivalsOf, arrivalsWaiting } from '../intake/lists';
import { intakeNumbers } from '../intake/numbers';
import { arrivalReading, arrivalSheet } from '../intake/read';
import { addPapers, addSection, changeEntry, moveEntry, removeEntry, setPack } from '../packs/entries';
import { beginPack, takeAgenda } from '../packs/fromAgenda';
import { issuePack, stopIssue, withdrawIssue } from '../packs/issue';
import { meetingsToCome } from '../packs/coming';
import { packSheet, packsOf } from '../packs/read';
import { setCoverPicture } from '../packs/picture';
import { tellOfIssue } from '../packs/tell';
import { findInPack, spotsInPack } from '../packs/find';
import { leadThrough, ledBy } from '../packs/lead';
import { changeNoteOnPage, packNotes, removeNoteOnPage, writeNoteOnPage } from '../packs/notes';
import { readPack } from '../packs/reading';
import { changeMeeting, makeMeetings, meetingsOf, removeMeeting } from '../meetings/meetings';
import { forecastPlan, planOf, setPlan } from '../plans/plans';
import { openRack } from '../expected/rack';
import { askForExpected, sayOfExpected } from '../expected/says';
import { expectedOf } from '../expected/slots';
import { checkVersion, compareVersions } from '../reading/versions';
import { findInPaper, spotsInPaper } from '../reading/find';
import { libraryReading, readLibraryAgain } from '../reading/overview';
import { readAgain, readingOfPaper, rememberPage } from '../reading/read';
import { anchorJournal, heldJournal } from '../anchors/anchor';
import { findInJournal, journalOf } from '../journal/read';
import {
  allLabels,
  changeLabel,
  createLabel,
  labelledPapers,
  labelsOn,
  mergeLabel,
  putLabel,
  removeLabel,
} from '../labels/labels';
import { changeSettings, settingsOfLibrary } from '../library/settings';
import { listLinks, makeLink, withdrawLink } from '../outside/links';
import { forecastGroup } from '../people/groupForecast';
import {
  changeGroup,
  createGroup,
  invite,
  listPeople,
  removeGroup,
  setActive,
  setKeeper,
  setOutside,
} from '../people/people';
import {
  recolourPlace,
  removePlace,
  renamePlace,
  reorderPlace,
  setMeeting,
  setPattern,
  setReference,
} from '../places/amend';
import { choosePlaces } from '../places/choose';
import { createFolder, createSeries } from '../places/create';
import { createDossier, proposeReference } from '../dossiers/create';
import { forecastYearClosing, forecastYearOpening, openYear, setYearClosed } from '../years/years';
import { forecastMove, movePlace } from '../places/move';
import { commonOf, forecastCommon, setCommon } from '../places/common';
import { setSeenIn } from '../plans/seenIn';
import { listChildren, listSeries, openPlace, seriesOf } from '../places/open';
import { find } from '../search/find';
import { foreseeUploads } from '../uploads/foresee';
import { contentsAlike } from '../uploads/alike';
import { settleUploads } from '../uploads/settleMany';
import { tellOfFiled } from '../uploads/tell';
import { answerUpload, uploadOutcome } from '../uploads/settle';
import { lookAtPlace } from '../views/look';
import { crossTable, openView } from '../views/open';
import { changeView, removeView, reorderView, saveView, viewsAt } from '../views/saved';
import { knownUploads, cancelUpload, redirectUploads, unfinishedUploads } from '../uploads/start';

/** The use-case that carries out each operation of the contract. The type requires all of them. */
export const operations: { readonly [N in OperationName]: UseCase<N> } = {
  'access.addresses': sortAddresses,
  'access.choices': subjectChoices,
  'access.forecast': forecastAccess,
  'access.matrix': accessMatrix,
  'access.set': setAccess,
  'access.sheet': accessSheet,
  'access.undo': undoAccess,
  'access.why': whyAccess,
  'access.withdraw': withdrawAccess,
  'account.open': openAccount,
  'column.change': changeColumn,
  'column.define': defineColumn,
  'column.forecastType': forecastType,
  'column.reorder': reorderColumn,
  'column.retire': retireColumn,
  'column.setType': setType,
  'columns.at': columnsAt,
  'across.papers': acrossPapers,
  'across.totals': acrossTotals,
  'backups.made': backupsOf,
  'bookmark.put': putBookmark,
  'bookmark.remove': removeBookmark,
  'bookmark.reorder': reorderBookmark,
  'bookmarks.mine': bookmarksOf,
  'desk.arrange': arrangeDesk,
  'desk.arrangement': arrangementOf,
  'desk.figures': figuresOf,
  'desk.keepers': keepersToAsk,
  'desk.lacking': lackingOf,
  'desk.lately': openedLately,
  'desk.news': newsFor,
  'door.list': listDoor,
  'dossier.create': createDossier,
  'dossier.setReference': setReference,
  'details.fields': fieldsOf,
  'details.of': detailsOf,
  'details.set': setDetails,
  'details.setFields': setFields,
  'dossiers.check': checkDossiers,
  'dossiers.make': makeDossiers,
  'expected.ask': askForExpected,
  'expected.of': expectedOf,
  'expected.say': sayOfExpected,
  'gaps.of': gapsOf,
  find,
  'follow.list': followedBy,
  'follow.news': newsOfFollowed,
  'follow.put': putFollow,
  'follow.remove': removeFollow,
  'follow.setTimes': setSummaryTimes,
  'follow.times': summaryTimesOf,
  'folder.create': createFolder,
  'common.set': setCommon,
  'common.seenIn': setSeenIn,
  'folder.setMeeting': setMeeting,
  'given.forecast': forecastGiven,
  'given.of': givenOf,
  'given.set': setGiven,
  'group.change': changeGroup,
  'group.create': createGroup,
  'group.forecast': forecastGroup,
  'group.remove': removeGroup,
  'journal.anchor': anchorJournal,
  'journal.find': findInJournal,
  'journal.held': heldJournal,
  'journal.of': journalOf,
  'label.change': changeLabel,
  'export.ask': askForExport,
  'export.remove': removeExport,
  'exports.mine': exportsOf,
  'health.counts': healthCounts,
  'health.list': healthList,
  'hand.papers': papersInHand,
  'hand.pickUp': pickUp,
  'hand.putDown': putDown,
  'label.create': createLabel,
  'label.merge': mergeLabel,
  'label.papers': labelledPapers,
  'label.put': putLabel,
  'label.remove': removeLabel,
  'labels.all': allLabels,
  'labels.on': labelsOn,
  'library.change': changeSettings,
  'library.settings': settingsOfLibrary,
  'link.make': makeLink,
  'link.withdraw': withdrawLink,
  'links.list': listLinks,
  'list.create': createList,
  'list.import': importList,
  'list.rename': renameList,
  'lists.all': listsWithUses,
  'agenda.addItems': addItems,
  'agenda.attach': attachPapers,
  'agenda.begin': beginAgenda,
  'agenda.changeItem': changeItem,
  'agenda.changePaper': changePaper,
  'agenda.detach': detachPaper,
  'agenda.file': fileAgenda,
  'agenda.moveItem': moveItem,
  'agenda.of': agendaSheet,
  'agenda.removeItem': removeItem,
  'agenda.set': setAgenda,
  'attendance.add': addAttendees,
  'attendance.answer': answerMeeting,
  'attendance.change': changeAttendee,
  'agenda.call': callForPaper,
  'agenda.uncall': uncallPaper,
  'agenda.handIn': handInPaper,
  'agenda.owed': papersOwed,
  'attendance.note': noteAttendance,
  'minutes.of': minutesOf,
  'minutes.begin': beginMinutes,
  'minutes.writeIn': writeInto,
  'minutes.agree': agreeMinutes,
  'outcome.record': recordOutcome,
  'outcome.change': changeOutcome,
  'outcome.remove': removeOutcome,
  'action.settle': settleAction,
  'actions.mine': myActions,
  'actions.open': openActions,
  'register.of': registerOf,
  'attendance.remove': removeAttendee,
  'pack.addPapers': addPapers,
  'pack.addSection': addSection,
  'pack.begin': beginPack,
  'pack.changeEntry': changeEntry,
  'pack.issue': issuePack,
  'pack.moveEntry': moveEntry,
  'pack.of': packSheet,
  'pack.read': readPack,
  'pack.setPicture': setCoverPicture,
  'pack.tell': tellOfIssue,
  'pack.findIn': findInPack,
  'pack.spots': spotsInPack,
  'pack.notes': packNotes,
  'pack.lead': leadThrough,
  'pack.led': ledBy,
  'pack.writeNote': writeNoteOnPage,
  'pack.changeNote': changeNoteOnPage,
  'pack.removeNote': removeNoteOnPage,
  'pack.removeEntry': removeEntry,
  'pack.set': setPack,
  'pack.stop': stopIssue,
  'pack.takeAgenda': takeAgenda,
  'pack.withdraw': withdrawIssue,
  'arrivals.list': arrivalsOf,
  'arrivals.waiting': arrivalsWaiting,
  'arrival.of': arrivalSheet,
  'arrival.fields': arrivalFields,
  'intake.ways': waysIn,
  'intake.answerSenders': answerSenders,
  'intake.numbers': intakeNumbers,
  'intake.keepWay': keepWayIn,
  'intake.lookNow': lookNow,
  'intake.removeWay': removeWayIn,
  'intake.restoreWay': restoreWayIn,
  'filing.rules': filingRules,
  'filing.tryRule': tryFilingRule,
  'filing.keepRule': keepFilingRule,
  'filing.moveRule': moveFilingRule,
  'filing.removeRule': removeFilingRule,
  'arrival.reading': arrivalReading,
  'arrival.file': fileArrival,
  'arrival.setAside': setArrivalAside,
  'arrival.takeBack': takeArrivalBack,
  'arrivals.takeBack': takeArrivalsBack,
  'arrivals.agree': agreeToArrivals,
  'arrival.alike': alikeArrivals,
  'arrival.ask': askAboutArrival,
  'arrival.putOff': putArrivalOff,
  'arrival.cut': cutArrival,
  'arrivals.join': joinArrivals,
  'filing.fields': filingFields,
  'intake.inStore': inStore,
  'intake.pick': pickFromStore,
  'intake.putIn': putIn,
  'packs.of': packsOf,
  'meetings.mine': meetingsToCome,
  'meeting.change': changeMeeting,
  'meeting.remove': removeMeeting,
  'meetings.make': makeMeetings,
  'meetings.of': meetingsOf,
  'note.begin': beginNote,
  'note.create': createNote,
  'note.foresee': foreseeNote,
  'note.fromPaper': noteFromPaper,
  'note.keep': keepNote,
  'note.setStart': setNoteStart,
  'note.write': writeNote,
  'notes.starts': noteStarts,
  'paper.alike': alikePapers,
  'paper.docket': docketOf,
  'paper.fileAttachment': fileAttachment,
  'paper.setCover': setCover,
  'library.reading': libraryReading,
  'library.readAgain': readLibraryAgain,
  'paper.check': checkVersion,
  'paper.compare': compareVersions,
  'paper.findIn': findInPaper,
  'paper.leave': leavePlace,
  'paper.readAgain': readAgain,
  'paper.reading': readingOfPaper,
  'paper.addLink': addLink,
  'paper.remember': rememberPage,
  'paper.spots': spotsInPaper,
  'paper.takeNewer': takeNewer,
  'paper.rename': renamePaper,
  'paper.restoreVersion': restoreVersion,
  'paper.setRemark': setRemark,
  'papers.actable': actablePapers,
  'papers.copy': copyPapers,
  'papers.copyForecast': forecastCopy,
  'papers.crossFile': crossFile,
  'hold.extend': extendHold,
  'hold.lift': liftHold,
  'hold.place': placeHold,
  'hold.release': releaseFromHold,
  'holds.list': listHolds,
  'holds.of': holdsOf,
  'retention.classes': retentionClasses,
  'retention.foresee': foreseeSchedule,
  'retention.give': giveClass,
  'retention.of': keepingOf,
  'retention.putClass': putClass,
  'retention.removeClass': removeClass,
  'retention.takeAway': takeClassAway,
  'retention.takeIn': takeScheduleIn,
  'run.abandon': abandonRun,
  'run.approve': approveRun,
  'run.destroy': destroyRun,
  'run.leaveOut': leaveOut,
  'run.open': openRun,
  'run.prepare': prepareRun,
  'runs.list': listRuns,
  'review.done': doReview,
  'review.of': reviewOf,
  'review.setOwn': setOwnCycle,
  'review.takeBack': takeBackReview,
  'reviews.mine': reviewsOfMine,
  'reviews.removeRule': removeReviewRule,
  'reviews.rules': reviewRules,
  'reviews.setRule': setReviewRule,
  'papers.destroy': destroyPapers,
  'papers.dispose': disposePapers,
  'papers.disposed': disposedPapers,
  'papers.forecastFiling': forecastFiling,
  'papers.leave': leavePlaces,
  'papers.lately': latelyChanged,
  'papers.move': movePapers,
  'papers.moveForecast': forecastPaperMove,
  'papers.notCopiable': notCopiable,
  'papers.putBack': putBackPapers,
  'papers.putInPlaces': putInPlaces,
  'papers.reorder': reorderPapers,
  'papers.rows': papersByIds,
  'papers.setCells': setCells,
  'papers.setLock': setLock,
  'papers.setValues': setValues,
  'papers.values': valuesOf,
  'passed.byMe': passedByMe,
  'passed.mark': markPassed,
  'passed.toMe': passedToMe,
  'people.list': listPeople,
  'person.dropSecondStep': dropSecondStep,
  'person.invite': invite,
  'person.setActive': setActive,
  'person.setKeeper': setKeeper,
  'person.setOutside': setOutside,
  'common.of': commonOf,
  'common.forecast': forecastCommon,
  'place.children': listChildren,
  'place.look': lookAtPlace,
  'place.move': movePlace,
  'place.moveForecast': forecastMove,
  'place.nextReference': proposeReference,
  'place.open': openPlace,
  'place.seriesOf': seriesOf,
  'place.recolour': recolourPlace,
  'place.remove': removePlace,
  'place.rename': renamePlace,
  'place.reorder': reorderPlace,
  'place.setStandstill': setStandstill,
  'places.choose': choosePlaces,
  'places.series': listSeries,
  'search.forget': forgetSearches,
  'search.inside': findInside,
  'search.recent': recentSearches,
  'search.remember': rememberSearch,
  'search.why': whyFound,
  'session.end': endSession,
  'plan.forecast': forecastPlan,
  'plan.of': planOf,
  'plan.set': setPlan,
  'rack.open': openRack,
  'series.create': createSeries,
  'series.setPattern': setPattern,
  'seal.check': checkSeals,
  'signoff.answer': answerSignOff,
  'signoff.ask': askForSignatures,
  'signoff.callAgain': callAgain,
  'signoff.choices': signOffChoices,
  'signoff.lines': signOffLines,
  'signoff.markOnPaper': markOnPaper,
  'signoff.of': signOffsOf,
  'signoff.release': releaseSigner,
  'signoff.sealAgain': sealAgain,
  'signoff.withdraw': withdrawSignOff,
  'standstill.forecast': forecastStandstill,
  'table.apply': applyTable,
  'table.preview': previewTable,
  'term.add': addTerm,
  'term.change': changeTerm,
  'term.merge': mergeTerm,
  'term.mergeForecast': forecastMerge,
  'term.reorder': reorderTerm,
  'term.retire': retireTerm,
  'token.create': createToken,
  'token.withdraw': withdrawToken,
  'upload.answer': answerUpload,
  'upload.cancel': cancelUpload,
  'uploads.settle': settleUploads,
  'uploads.tell': tellOfFiled,
  'upload.outcome': uploadOutcome,
  'upload.redirect': redirectUploads,
  'uploads.foresee': foreseeUploads,
  'uploads.alike': contentsAlike,
  'uploads.known': knownUploads,
  'uploads.unfinished': unfinishedUploads,
  'values.choices': valueChoices,
  'values.missing': missingValues,
  'values.suggest': suggest,
  'values.undo': undoValues,
  'view.change': changeView,
  'view.crossTable': crossTable,
  'view.open': openView,
  'view.remove': removeView,
  'view.reorder': reorderView,
  'view.save': saveView,
  'views.at': viewsAt,
  'year.closeForecast': forecastYearClosing,
  'year.open': openYear,
  'year.openForecast': forecastYearOpening,
  'year.setClosed': setYearClosed,
};

export {
  account,
  groupTerm,
  invitation,
  membership,
  person,
  personGroup,
  rateLimit,
  seeAs,
  session,
  verification,
} from './people';
export { apiToken, doorEvent, twoFactor, usedCode } from './accounts';
export { outsideLink, outsideOpening, passedMark } from './sharing';
export { accessGrant, library, place, scope, scopeEntry } from './places';
export { expectedSay, filingPlan, filingYear, meeting } from './filing';
export {
  accessChange,
  blob,
  blobChunk,
  destroyedPaper,
  document,
  filing,
  journal,
  paperCover,
  paperOrigin,
  upload,
  version,
} from './documents';
export {
  attachment,
  likenessBand,
  pagePicture,
  reading,
  readingAttempt,
  readingForm,
  readingPage,
  readingPosition,
  readingStage,
} from './reading';
export { backupNote } from './backup';
export { bookmark, deskArrangement } from './desk';
export { follow, followMail } from './follow';
export { healthCount } from './health';
export { exportJob } from './exports';
export { inHand } from './hand';
export { recentSearch, searchPost, searchSegment, searchText } from './search';
export { note, noteChange, noteWriter } from './notes';
export { columnDef, controlledList, documentLabel, givenValue, label, term, valueBatch, valueChange } from './columns';
export { look, tallyChange, view, viewGroup } from './views';
export {
  disposalRun,
  disposalRunItem,
  hold,
  holdOn,
  retentionClass,
  retentionRule,
  review,
  reviewRule,
} from './duties';
export { sealCertificate, signer, signOff } from './signoff';
export { agenda, agendaItem, agendaPaper, agendaReader, attendee, paperCall } from './agenda';
export { arrival, filingRule, storePaper, wayIn } from './intake';
export { itemOutcome, minutes } from './minutes';
export { pack, packCopy, packEntry, packIssue, packLead, packPicture, packReader, pageNote } from './packs';

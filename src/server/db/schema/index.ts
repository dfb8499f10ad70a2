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
export { accessGrant, filingYear, library, place, scope, scopeEntry } from './places';
export { accessChange, blob, blobChunk, document, filing, journal, preview, upload, version } from './documents';
export { columnDef, controlledList, documentLabel, givenValue, label, term, valueChange } from './columns';
export { look, tallyChange, view, viewGroup } from './views';

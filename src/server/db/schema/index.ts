export { account, invitation, membership, person, personGroup, rateLimit, session, verification } from './people';
export { accessGrant, filingYear, library, place, scope, scopeEntry } from './places';
export { blob, blobChunk, document, journal, preview, upload, version } from './documents';
export { columnDef, controlledList, documentLabel, givenValue, label, term, valueChange } from './columns';
export { look, tallyChange, view, viewGroup } from './views';

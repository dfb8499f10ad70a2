/**
 * The registry of refusals. Each kind has its default wording; `says` tells what happened, and callers add what is safe
 * and what to do next.
 */
export const issueKinds = {
  'signed-out': { status: 401, says: 'Your session has ended. Sign in again; what you typed is kept.' },
  'not-allowed': { status: 403, says: 'You may see this, but not change it. Ask a keeper for access.' },
  'not-found': {
    status: 404,
    says: 'Nothing is kept at this address, or it is not open to you. Check the address, or ask a keeper.',
  },
  conflict: {
    status: 409,
    says: 'Someone else changed this meanwhile. Nothing was overwritten. Look at it again, then repeat your change.',
  },
  'name-taken': {
    status: 409,
    says: 'Another place beside this one already has that name. Choose a different name.',
  },
  'reference-taken': {
    status: 409,
    says: 'That reference is already in use in this series. Choose the next free one.',
  },
  'address-taken': { status: 409, says: 'A person with that e-mail address is already here.' },
  'into-itself': {
    status: 409,
    says: 'A place cannot be moved into itself or into something below it. Nothing was moved.',
  },
  'not-empty': {
    status: 409,
    says: 'Only an empty place can be removed, with nothing of it in the disposal tray. Nothing was removed.',
  },
  'closed-place': { status: 409, says: 'This place is closed. Nothing can be filed or changed in it.' },
  locked: { status: 409, says: 'This is locked. Nothing was changed. Who manages it can unlock it.' },
  'last-keeper': { status: 409, says: 'The library needs at least one keeper. Make someone else a keeper first.' },
  gone: { status: 410, says: 'This link has been used or has run out. Ask a keeper for a new one.' },
  'too-large': { status: 413, says: 'The file is larger than this library takes. Nothing was sent.' },
  'kind-refused': { status: 415, says: 'This library does not take files of this kind. Nothing was filed.' },
  damaged: {
    status: 422,
    says: 'The file arrived differing from the one that was sent. Nothing was filed. Send it again.',
  },
  'damaged-content': {
    status: 500,
    says: 'What is kept of this paper is no longer what was filed. Nothing of it is given out. Tell a keeper: it can come back from a backup.',
  },
  'range-unmet': { status: 416, says: 'The part asked for lies beyond the end of the paper.' },
  invalid: { status: 422, says: 'Something in the form needs another look. Nothing was saved.' },
  'wrong-origin': { status: 403, says: 'The request did not come from this library. Nothing was done.' },
  'wrong-password': { status: 403, says: 'The e-mail address or the password is not right.' },
  'wrong-code': { status: 403, says: 'That code is not right, or has been used. The next one will do.' },
  'too-many': { status: 429, says: 'Too many tries in a short time. Wait a minute, then try again.' },
  unavailable: {
    status: 503,
    says: 'The library cannot be reached just now. What was saved is safe. It tries again by itself.',
  },
  fault: {
    status: 500,
    says: 'Something went wrong in the library. Nothing was changed. Repeat it, or tell a keeper.',
  },
} as const satisfies Record<string, { status: number; says: string }>;

export type IssueKind = keyof typeof issueKinds;

/** One thing wrong with one input; `path` is dotted (`name`, `files.3`), `says` a whole sentence. */
export interface FieldIssue {
  readonly path: string;
  readonly says: string;
}

/** A refusal. `says` is the whole text for the person; `fields` is there for kind `invalid` only. */
export interface Issue {
  readonly kind: IssueKind;
  readonly says: string;
  readonly fields?: readonly FieldIssue[];
}

/** Makes an issue of a kind, with the registry's words unless others are given. */
export function issue(kind: IssueKind, says?: string, fields?: readonly FieldIssue[]): Issue {
  return { kind, says: says ?? issueKinds[kind].says, ...(fields ? { fields } : {}) };
}

/** The `invalid` issue for one field, with that field's sentence. */
export function invalidField(path: string, says: string): Issue {
  return issue('invalid', says, [{ path, says }]);
}

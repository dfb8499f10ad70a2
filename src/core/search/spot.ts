import type { FoundInside } from './contract';

/** Where a paper is opened so that what was found is in sight: the page, the first of the words as it stands there, the attachment. */
export type Spot = Readonly<Record<string, string>>;

/** The spot of what was found inside; of an earlier version, the version. Nothing for what is not inside. */
export function spotOf(inside: FoundInside | null | undefined): Spot {
  if (!inside) return {};
  if (inside.version !== null) return { version: String(inside.version) };
  const { page, passage, marks, attachment } = inside;
  return {
    page: String(page),
    find: passage.slice(...(marks[0] ?? [0, 0])),
    ...(attachment === null ? {} : { attachment: String(attachment.number) }),
  };
}

/**
 * The address of a paper, opened at a spot; of an earlier version, that version beside the current one.
 * @param also what else the address says
 */
export function paperAddress(documentId: string, { version, ...spot }: Spot, also: Spot = {}): string {
  if (version !== undefined) return `/paper/${documentId}/versions?${new URLSearchParams({ one: version }).toString()}`;
  const all = new URLSearchParams({ ...also, ...spot }).toString();
  return `/paper/${documentId}${all === '' ? '' : `?${all}`}`;
}

import type { FoundInside } from './contract';

/**
 * Where a paper is opened so that what was found is in sight, as its address has it: the page, the first of the words as it
 * stands there, the attachment. Nothing for what stands in an earlier version, or not inside: the paper opens as it does.
 */
export function spotOf(inside: FoundInside | null | undefined): Readonly<Record<string, string>> {
  if (!inside || inside.version !== null) return {};
  const { page, passage, marks, attachment } = inside;
  return {
    page: String(page),
    find: passage.slice(...(marks[0] ?? [0, 0])),
    ...(attachment === null ? {} : { attachment: String(attachment.number) }),
  };
}

/** The address of a paper, opened at a spot. */
export const paperAddress = (documentId: string, spot: Readonly<Record<string, string>>): string =>
  `/paper/${documentId}${Object.keys(spot).length === 0 ? '' : `?${new URLSearchParams(spot).toString()}`}`;

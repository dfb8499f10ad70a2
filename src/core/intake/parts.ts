import { endingOf, tidyTitle } from '../files/title';
import type { ProposedPart } from './model';

/** An attachment as the mail lists it. */
export interface ListedPart {
  readonly number: number;
  readonly name: string;
  readonly mediaType: string;
  readonly sizeBytes: number;
}

/** A smaller picture is taken for a mark or a signature’s. In bytes. */
const smallPicture = 30_000;
/** What mail programs add for themselves: signatures, keys, invitations, wrappers (RFC 1847, RFC 5545, RFC 9580, [MS-OXTNEF]). */
const addedByPrograms = new Set(['p7s', 'p7m', 'asc', 'sig', 'ics', 'vcf', 'dat']);

/** Whether an attachment looks like a paper. */
export function looksLikePaper({ name, mediaType, sizeBytes }: ListedPart): boolean {
  if (sizeBytes === 0 || addedByPrograms.has(endingOf(name))) return false;
  return !mediaType.startsWith('image/') || sizeBytes >= smallPicture;
}

/** The one part of what arrived as a file: itself. */
export const fileAsPart = (fileName: string): ProposedPart[] => [
  { attachment: null, title: tidyTitle(fileName), counts: true },
];

/** The parts of a mail as they would be filed: the attachments that look like papers; where none does, the mail itself. */
export function proposedParts(subject: string, attachments: readonly ListedPart[]): ProposedPart[] {
  const papers = attachments.map((each) => ({
    attachment: each.number,
    title: tidyTitle(each.name),
    counts: looksLikePaper(each),
  }));
  const bare = subject.replace(/^(?:(?:re|fwd?|aw|wg|antw|tr|rv|sv)\s*:\s*)+/iu, '');
  return [
    {
      attachment: null,
      title: bare.trim() === '' ? 'Mail without a subject' : tidyTitle(`${bare.replaceAll(/[/\\]/gu, ' ')}.eml`),
      counts: papers.every(({ counts }) => !counts),
    },
    ...papers,
  ];
}

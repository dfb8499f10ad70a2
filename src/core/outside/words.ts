import { counted } from '../text/measure';
import type { LinkEnd, OutsideLinkRow } from './model';

const ends: Readonly<Record<Exclude<LinkEnd, null>, string>> = {
  withdrawn: 'Withdrawn',
  expired: 'Has run out',
  usedUp: 'Opened as often as it may be',
};

/** Why a link can no longer be opened, in words. */
export const endInWords = (ended: Exclude<LinkEnd, null>): string => ends[ended];

/** A link's terms: "for ann@example.org, with a password, without copies". */
export function linkTermsInWords({ email, hasPassword, copies }: OutsideLinkRow): string {
  return [
    email === null ? 'for anyone who has it' : `for ${email}`,
    ...(hasPassword ? ['with a password'] : []),
    ...(copies ? [] : ['without copies']),
  ].join(', ');
}

/** A link's use: "opened twice of 5", "never opened". */
export function linkUseInWords({ openings, mostOpenings }: Pick<OutsideLinkRow, 'openings' | 'mostOpenings'>): string {
  const of = mostOpenings === null ? '' : ` of ${mostOpenings}`;
  return openings === 0
    ? `never opened${mostOpenings === null ? '' : `, ${mostOpenings} at most`}`
    : `opened ${counted(openings, 'time')}${of}`;
}

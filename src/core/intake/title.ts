import type { Stated } from '../stated/model';

/** Names that machines give, and what all bills are called: they say nothing of what a file is (common practice, no source). */
export const saysNothing =
  /^(?:scan(?:ned)?(?: document)?|scanner|img|image|document|doc|file|attachment|page|photo|fax|untitled|print|pdf|invoice|bill|rechnung|facture)?[\s\d.,()-]*$/iu;
/** Less sure numbers make no title. */
const leastSure = 0.6;

/** The title of a part with the number that it states: written as it stands there, and in place of a title that says nothing. */
export function titleWith(title: string, stated: readonly Stated[]): string {
  const number = stated.find(({ kind, sure }) => kind === 'number' && sure >= leastSure);
  if (!number) return title;
  if (saysNothing.test(title)) return `${/credit/iu.test(number.by ?? '') ? 'Credit note' : 'Invoice'} ${number.value}`;
  const at = title.toLowerCase().indexOf(number.value.toLowerCase());
  return at === -1 ? title : `${title.slice(0, at)}${number.value}${title.slice(at + number.value.length)}`;
}

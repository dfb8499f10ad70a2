import type { Stated } from '../stated/model';
import { searchKey } from '../text/fold';
import { namesWords } from '../text/namesWords';

/** What a condition looks at. */
export const ruleFields = ['from', 'to', 'subject', 'words', 'leastAmount', 'mostAmount'] as const;
export type RuleField = (typeof ruleFields)[number];

/** Each in words, with what is typed for it. */
export const ruleFieldWords: Readonly<Record<RuleField, { readonly says: string; readonly form: string }>> = {
  from: { says: 'comes from', form: 'billing@gull.example, or gull.example' },
  to: { says: 'was sent to', form: 'invoices@our-office.example' },
  subject: { says: 'has in its subject', form: 'rope' },
  words: { says: 'has the words', form: 'mooring buoys' },
  leastAmount: { says: 'is for at least', form: '100.00' },
  mostAmount: { says: 'is for at most', form: '500.00' },
};

/** One thing that has to be so. */
export interface RuleCondition {
  readonly field: RuleField;
  readonly text: string;
}

/** When an arrival looks like this, then it is proposed for that place. */
export interface FilingRule {
  readonly id: string;
  readonly name: string;
  readonly on: boolean;
  /** All of them have to hold. */
  readonly conditions: readonly RuleCondition[];
  /** A dossier, or a place in one; null: it was removed. */
  readonly placeId: string | null;
  /** What its papers are called: `{number}`, `{day}`, `{subject}` and `{title}` are filled in. Empty: as without the rule. */
  readonly title: string;
  /** What its papers are given, by the ids of columns, as it would be typed. */
  readonly values: Readonly<Record<string, string>>;
  /** The ids of the labels that they bear, and of the people who are told. */
  readonly labelIds: readonly string[];
  readonly tell: readonly string[];
  /** It files by itself what is so sure, in per cent; null: a person agrees. */
  readonly filesFrom: number | null;
  readonly revision: number;
}

/** All that there is to a rule, as it is given to be kept. */
export const toKeep = (
  { id, revision, name, on, title, filesFrom, values, conditions, labelIds, tell }: FilingRule,
  placeId: string,
) => ({
  ...{ id, revision, name, on, title, filesFrom, placeId },
  ...{ values: { ...values }, conditions: [...conditions], labelIds: [...labelIds], tell: [...tell] },
});

/** So many conditions fit a rule. */
export const mostConditions = 8;
/** So many rules fit a library. */
export const mostRules = 200;

/** What is known of an arrival that rules look at. */
export interface RuleFacts {
  readonly sender: string;
  readonly sentTo: readonly string[];
  readonly subject: string;
  /** Its words and those of what is attached. */
  readonly text: string;
  readonly stated: readonly Stated[];
}

/** Whether all conditions of a rule hold. */
export function holds(conditions: readonly RuleCondition[], facts: RuleFacts): boolean {
  const text = searchKey(facts.text);
  const amount = Number(facts.stated.find(({ kind }) => kind === 'amount')?.value ?? Number.NaN);
  return (
    conditions.length > 0 &&
    conditions.every(({ field, text: wanted }) => {
      switch (field) {
        case 'from':
          return isAddress(facts.sender, wanted);
        case 'to':
          return facts.sentTo.some((each) => isAddress(each, wanted));
        case 'subject':
          return namesWords(searchKey(facts.subject), searchKey(wanted));
        case 'words':
          return namesWords(text, searchKey(wanted));
        case 'leastAmount':
          return amount >= Number(wanted);
        case 'mostAmount':
          return amount <= Number(wanted);
      }
    })
  );
}

/** Whether an address is the one wanted, or of the domain wanted: `gull.example` is not `notgull.example`. */
function isAddress(address: string, wanted: string): boolean {
  const [is, asked] = [address.toLowerCase(), wanted.trim().toLowerCase()];
  if (asked.includes('@') && !asked.startsWith('@')) return is === asked;
  const domain = asked.replace(/^@/u, '');
  const of = is.slice(is.lastIndexOf('@') + 1);
  return domain !== '' && (of === domain || of.endsWith(`.${domain}`));
}

/** What is wrong with a condition, in words; null: nothing. */
export function faultOf({ field, text }: RuleCondition): string | null {
  if (text.trim() === '') return 'Say what it looks for, or take this line away.';
  if (field === 'leastAmount' || field === 'mostAmount')
    return /^\d{1,9}(?:\.\d{1,2})?$/u.test(text.trim()) ? null : `“${text}” is not an amount: 100.00 is the form.`;
  if ((field === 'words' || field === 'subject') && searchKey(text) === '')
    return 'There is no word in it to look for.';
  return null;
}

/** A rule in one sentence: “It comes from gull.example and has the words rope.” */
export const conditionsInWords = (conditions: readonly RuleCondition[]): string =>
  `It ${conditions.map(({ field, text }) => `${ruleFieldWords[field].says} ${text}`).join(' and ')}.`;

/** The title by a rule’s pattern. What is not known is left out. */
export function titleByRule(pattern: string, title: string, { subject, stated }: RuleFacts): string {
  if (pattern.trim() === '') return title;
  const of = (kind: Stated['kind']) => stated.find((each) => each.kind === kind)?.value ?? '';
  const parts: Readonly<Record<string, string>> = { number: of('number'), day: of('day'), subject, title };
  const filled = pattern.replaceAll(/\{(number|day|subject|title)\}/gu, (_all, name: string) => parts[name] ?? '');
  const tidy = filled.replaceAll(/\s+/gu, ' ').replaceAll(/^[\s,;-]+|[\s,;-]+$/gu, '');
  return tidy === '' ? title : tidy.slice(0, 240);
}

import { searchKey } from '@/core/text/fold';

/** What the field leads to beside what is filed: pages of the library, by the words people have for them. */
export interface FieldAct {
  readonly name: string;
  readonly address: string;
  /** Other words for it. */
  readonly also: string;
  readonly onlyKeeper?: true;
  /** Private, so not there for who looks as another. */
  readonly own?: true;
}

const fieldActs = (rootId: string): readonly FieldAct[] => [
  { name: 'My desk', address: '/desk', also: 'home start' },
  { name: 'All papers', address: '/all', also: 'ledger everything' },
  { name: 'New since I looked', address: '/all?view=since-i-looked', also: 'news changed' },
  { name: 'Filed by me', address: '/all?view=filed-by-me', also: 'mine' },
  { name: 'Gaps', address: '/gaps', also: 'missing expected papers' },
  { name: 'Across dossiers', address: '/across', also: 'bulk many tree ticks' },
  { name: 'Disposal tray', address: '/tray', also: 'deleted removed restore bin' },
  { name: 'Outside links', address: '/links', also: 'share guests', own: true },
  { name: 'Exports', address: '/exports', also: 'archive zip download', own: true },
  { name: 'My account', address: '/account', also: 'password sign in second step', own: true },
  { name: 'Columns of the library', address: `/columns/${rootId}`, also: 'metadata fields', onlyKeeper: true },
  { name: 'Controlled lists', address: '/lists', also: 'terms choices', onlyKeeper: true },
  { name: 'Reading', address: '/reading', also: 'scans text', onlyKeeper: true },
  { name: 'Journal', address: '/journal', also: 'history log who did what', onlyKeeper: true },
  { name: 'Health', address: '/health', also: 'problems duplicates missing', onlyKeeper: true },
  { name: 'Backups', address: '/backups', also: 'restore safety copy', onlyKeeper: true },
  { name: 'People and groups', address: '/people', also: 'members colleagues invite', onlyKeeper: true },
  { name: 'Library settings', address: '/settings', also: 'time zone year language', onlyKeeper: true },
];

/** How many of them are offered. */
const few = 3;

/** Whether each typed word begins one of the words. */
export function saysAll(typed: string, words: string): boolean {
  const wanted = searchKey(typed).split(' ').filter(Boolean);
  const said = searchKey(words).split(' ');
  return wanted.length > 0 && wanted.every((each) => said.some((word) => word.startsWith(each)));
}

/** The pages whose names or other words begin with each typed word. */
export function actsFor(
  typed: string,
  { rootId, keeper, own }: { rootId: string; keeper: boolean; own: boolean },
): FieldAct[] {
  return fieldActs(rootId)
    .filter((act) => (keeper || act.onlyKeeper !== true) && (own || act.own !== true))
    .filter(({ name, also }) => saysAll(typed, `${name} ${also}`))
    .slice(0, few);
}

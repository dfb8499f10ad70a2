import { dayNumber, isoDay } from '../calendar/period';

/** A term in a group, of a person or of all members of another group. Days are ISO 8601; null is unlimited. */
export interface Term {
  readonly groupId: string;
  readonly member: { readonly kind: 'person' | 'group'; readonly id: string };
  readonly from: string | null;
  /** The last day. */
  readonly until: string | null;
}

/** Whether a term of office covers a day (ISO 8601); null ends are open. */
export const holdsOn = ({ from, until }: Pick<Term, 'from' | 'until'>, day: string): boolean =>
  (from === null || from <= day) && (until === null || day <= until);

/** The groups each person belongs to on a day, directly or through nested groups. Cycles add nothing. */
export function groupsOn(terms: readonly Term[], day: string): ReadonlyMap<string, ReadonlySet<string>> {
  const current = terms.filter((term) => holdsOn(term, day));
  const around = new Map<string, string[]>();
  for (const { groupId, member } of current)
    if (member.kind === 'group') around.set(member.id, [...(around.get(member.id) ?? []), groupId]);
  const found = new Map<string, Set<string>>();
  for (const { groupId, member } of current) {
    if (member.kind !== 'person') continue;
    const mine = found.get(member.id) ?? new Set<string>();
    found.set(member.id, mine);
    enter(groupId, around, mine);
  }
  return found;
}

/** For each group a person belongs to, the nested groups through which they do, innermost first; empty if directly. */
export function groupWays(terms: readonly Term[], personId: string): ReadonlyMap<string, readonly string[]> {
  const ways = new Map<string, readonly string[]>(
    terms.flatMap(({ groupId, member }) =>
      member.kind === 'person' && member.id === personId ? [[groupId, []] as const] : [],
    ),
  );
  // Breadth first, to find the shortest path.
  for (let edge = [...ways.keys()]; edge.length > 0;) {
    const next: string[] = [];
    for (const inner of edge)
      for (const { groupId, member } of terms) {
        if (member.kind !== 'group' || member.id !== inner || ways.has(groupId)) continue;
        ways.set(groupId, [...(ways.get(inner) ?? []), inner]);
        next.push(groupId);
      }
    edge = next;
  }
  return ways;
}

/** Adds a group and all groups that contain it to `into`. */
function enter(groupId: string, around: ReadonlyMap<string, readonly string[]>, into: Set<string>): void {
  if (into.has(groupId)) return;
  into.add(groupId);
  for (const outer of around.get(groupId) ?? []) enter(outer, around, into);
}

/** Whether putting `inner` into `outer` would make it contain itself, on any date. */
export function wouldLoop(terms: readonly Term[], outer: string, inner: string): boolean {
  const around = new Map<string, string[]>();
  for (const { groupId, member } of terms)
    if (member.kind === 'group') around.set(member.id, [...(around.get(member.id) ?? []), groupId]);
  const holding = new Set<string>();
  enter(outer, around, holding);
  return holding.has(inner);
}

/** The next day after `day` on which a term begins or ends; null if none does. */
export function nextTurn(terms: readonly Term[], day: string): string | null {
  const turns = terms.flatMap(({ from, until }) => [from, until === null ? null : dayAfter(until)]);
  return turns.filter((each): each is string => each !== null && each > day).sort()[0] ?? null;
}

function dayAfter(day: string): string | null {
  const number = dayNumber(day);
  return number === null ? null : isoDay(number + 1);
}

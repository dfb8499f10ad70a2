import { and, eq } from 'drizzle-orm';
import { has } from '@/core/access/capability';
import { comesTo, explain, explainPaper, type Link, type NamedStep } from '@/core/access/explain';
import type { Grantee } from '@/core/access/resolve';
import { chainInWords, setInWords, type ChainNames } from '@/core/access/words';
import { refuse } from '@/core/errors/refusal';
import { groupWays } from '@/core/people/belonging';
import { namesOf } from '../known/names';
import { asks } from '../acts/operation';
import { db } from '../db/client';
import { filing, membership, person, personGroup, place } from '../db/schema';
import { currentTerms } from '../scopes/memberships';
import type { Actor } from '../gate/actor';
import { managed, stepsOn, type Managed } from './managed';

/** Why a person may or may not open a place or paper: what each sheet from the library down contributes, in words. */
export const whyAccess = asks('access.why', async (actor, input) => {
  const found = await managed(db(), actor, input.on);
  const [who] = await db()
    .select({ id: person.id, name: person.name, keeper: person.keeper, active: person.active })
    .from(person)
    .where(eq(person.id, input.personId));
  if (!who) refuse('not-found');
  if (!who.active)
    return {
      name: who.name,
      comesTo: `${who.name} may do nothing`,
      maySee: false,
      links: ['The account is turned off.'],
    };
  if (who.keeper)
    return { name: who.name, comesTo: `${who.name} may do everything`, maySee: true, links: ['A keeper manages all.'] };
  const groups = await db().select({ id: membership.groupId }).from(membership).where(eq(membership.personId, who.id));
  const grantee: Grantee = { personId: who.id, groupIds: new Set(groups.map((row) => row.id)) };
  const path = await named(found.lineage);
  const chain =
    input.on.kind === 'place'
      ? explain(path, grantee)
      : explainPaper(path, await openingPaths(input.on.id), { at: input.on.id, step: found.step }, grantee);
  const set = comesTo(chain);
  const names = await namesFor(actor, chain, who, found);
  return {
    name: who.name,
    comesTo: `${who.name} ${setInWords(set)}`,
    maySee: has(set, 'see'),
    links:
      chain.length === 0
        ? ['Nothing on the way down is given to this person, to a group of theirs, or to everyone signed in.']
        : chainInWords(chain, names),
  };
});

const named = async (lineage: readonly string[]): Promise<NamedStep[]> =>
  (await stepsOn(db(), lineage)).map(({ id, step }) => ({ at: id, step }));

async function openingPaths(documentId: string): Promise<NamedStep[][]> {
  const places = await db()
    .select({ lineage: place.lineage })
    .from(filing)
    .innerJoin(place, eq(place.id, filing.placeId))
    .where(and(eq(filing.documentId, documentId), eq(filing.kind, 'opening')));
  return Promise.all(places.map(({ lineage }) => named(lineage)));
}

async function namesFor(
  actor: Actor,
  chain: readonly Link[],
  who: { readonly id: string; readonly name: string },
  { on, name: onName }: Managed,
): Promise<ChainNames> {
  const onId = on.id;
  const links = chain.flatMap((link) => (link.kind === 'opening' ? [link, ...link.chain] : [link]));
  const ids = [...new Set(links.map((link) => link.at))].filter((id) => id !== onId);
  const at = new Map([...Object.entries(await namesOf(db(), actor, { place: ids })), [onId, onName] as const]);
  const groups = new Map(
    (await db().select({ id: personGroup.id, name: personGroup.name }).from(personGroup)).map((row) => [
      row.id,
      row.name,
    ]),
  );
  const ways = groupWays(await currentTerms(db()), who.id);
  const named = (id: string) => groups.get(id) ?? '';
  return {
    at: (id) => at.get(id) ?? null,
    subject: (key) => {
      if (key === 'everyone') return 'everyone signed in';
      if (key === who.id) return who.name;
      const by = ways.get(key) ?? [];
      return by.length === 0 ? named(key) : `${named(key)} (by way of ${by.map(named).join(', ')})`;
    },
  };
}

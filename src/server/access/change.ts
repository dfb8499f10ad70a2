import { and, eq, ne } from 'drizzle-orm';
import { has, listOf, noCapabilities, setOf, bitOf, type CapabilitySet } from '@/core/access/capability';
import type { AccessOn } from '@/core/access/contract';
import { subjectKey, type Grant, type Step } from '@/core/access/resolve';
import { setInWords } from '@/core/access/words';
import type { OutputOf, ReadInputOf } from '@/core/contract';
import { refuse } from '@/core/errors/refusal';
import { acts, actsInSteps } from '../acts/operation';
import { perform } from '../acts/act';
import { now } from '../base/clock';
import { config } from '../base/config';
import { db, type Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { accessChange, accessGrant, document, membership, person, personGroup, place } from '../db/schema';
import { trySendMail } from '../mail/outbox';
import type { Actor } from '../gate/actor';
import { capabilitiesIn, capabilitiesOn } from '../gate/held';
import { grantsOn, managed, type Managed } from './managed';
import { recomputePapers, recomputeScopes } from '../scopes/scopes';

type Sheet = Pick<ReadInputOf<'access.forecast'>, 'follows' | 'grants'>;

/** Reads a sheet from its input. Leaves out empty lines; refuses two lines for the same subject. */
export function readSheet({ follows, grants }: Sheet): Step {
  const read = grants
    .map(({ subject, gives, withholds }): Grant => ({ subject, gives: setOf(gives), withholds: bitsOf(withholds) }))
    .filter((grant) => grant.gives !== noCapabilities || grant.withholds !== noCapabilities);
  if (new Set(read.map(({ subject }) => subjectKey(subject))).size < read.length)
    refuse('invalid', 'The same person or group is on the sheet twice.');
  return { follows, grants: read };
}

/** Withheld capabilities as a set; unlike given ones, they imply no others. */
const bitsOf = (some: Sheet['grants'][number]['withholds']): CapabilitySet =>
  some.reduce((set, each) => set | bitOf(each), noCapabilities);

/** Replaces an access sheet, if it still has the revision the caller saw. Keeps the former sheet for undoing. */
export const setAccess = actsInSteps('access.set', async (actor, input) => {
  const step = readSheet(input);
  let told: readonly Recipient[] = [];
  const done = await perform<OutputOf<'access.withdraw'> | { entryId: null; revision: number }>(
    actor,
    ['access'],
    async (tx) => {
      const found = await managed(tx, actor, input.on);
      if (found.parentId === null) refuse('not-allowed', 'The library itself is open to keepers alone.');
      if (found.revision !== input.revision) refuse('conflict');
      if (sameStep(found.step, step)) return { entry: null, result: { entryId: null, revision: input.revision } };
      const before = new Set(found.step.grants.map(({ subject }) => subjectKey(subject)));
      await put(tx, actor, found, step);
      if (input.message !== null)
        told = await toTell(
          tx,
          step.grants.filter((grant) => !before.has(subjectKey(grant.subject))),
        );
      return recorded(tx, actor, found, step);
    },
  );
  // The sheet is already saved: messages that could not be sent are reported, and nothing is undone.
  const sent = await Promise.all(told.map((each) => tell(actor, input, each)));
  return { ...done, untold: told.filter((_each, at) => !sent[at]).map((each) => each.name) };
});

/** Removes one subject's line from a sheet. Can be undone like any change of access. */
export const withdrawAccess = acts('access.withdraw', ['access'], async (tx, actor, { on, subject }) => {
  const found = await managed(tx, actor, on);
  const step = {
    ...found.step,
    grants: found.step.grants.filter((grant) => subjectKey(grant.subject) !== subjectKey(subject)),
  };
  if (step.grants.length === found.step.grants.length) refuse('not-found');
  await put(tx, actor, found, step);
  return recorded(tx, actor, found, step);
});

/** Undoes a change of access, if the sheet has not been changed since. */
export const undoAccess = acts('access.undo', ['access'], async (tx, actor, { entryId }) => {
  const [change] = await tx.select().from(accessChange).where(eq(accessChange.entryId, entryId));
  if (!change) refuse('not-found');
  const on: AccessOn =
    change.placeId === null ? { kind: 'paper', id: change.documentId ?? '' } : { kind: 'place', id: change.placeId };
  const found = await managed(tx, actor, on);
  if (!sameStep(found.step, change.after))
    refuse(
      'conflict',
      'Who may open it has been changed again since. Nothing was undone; the sheet shows how it stands.',
    );
  const there = await knownIn(tx, change.before.grants);
  const step = { ...change.before, grants: there };
  await put(tx, actor, found, step);
  const done = await recorded(tx, actor, found, step);
  return { entry: done.entry, recorded: async (id) => (await done.recorded(id), null) };
});

async function put(tx: Tx, actor: Actor, found: Managed, step: Step): Promise<void> {
  const { on } = found;
  const revision = { follows: step.follows, accessRevision: found.revision + 1 };
  const changed =
    on.kind === 'place'
      ? await tx
          .update(place)
          .set(revision)
          .where(and(eq(place.id, on.id), eq(place.accessRevision, found.revision), ne(place.kind, 'library')))
          .returning({ id: place.id })
      : await tx
          .update(document)
          .set(revision)
          .where(and(eq(document.id, on.id), eq(document.accessRevision, found.revision)))
          .returning({ id: document.id });
  if (changed.length === 0) refuse('conflict');
  if ((await knownIn(tx, step.grants)).length < step.grants.length)
    refuse('not-found', 'Someone on the sheet is no longer here. Nothing was saved.');
  await putGrants(tx, actor, on, found.step.grants, step.grants);
  if (on.kind === 'place') await recomputeScopes(tx, on.id);
  else await recomputePapers(tx, [on.id]);
  await keepsOwnWayIn(tx, actor, on);
}

/** Writes only the lines that differ, so that unchanged lines keep who granted them and when. */
async function putGrants(
  tx: Tx,
  actor: Actor,
  on: AccessOn,
  before: readonly Grant[],
  after: readonly Grant[],
): Promise<void> {
  const was = new Map(before.map((grant) => [subjectKey(grant.subject), grant]));
  const stays = (grant: Grant): boolean => {
    const old = was.get(subjectKey(grant.subject));
    return old !== undefined && old.gives === grant.gives && old.withholds === grant.withholds;
  };
  const kept = new Set(after.filter(stays).map((grant) => subjectKey(grant.subject)));
  const rows = await tx.select().from(accessGrant).where(grantsOn(on));
  const gone = rows.filter((row) => !kept.has(row.personId ?? row.groupId ?? 'everyone')).map((row) => row.id);
  if (gone.length > 0) await tx.delete(accessGrant).where(idIn(accessGrant.id, gone));
  const put = after.filter((grant) => !stays(grant));
  if (put.length > 0)
    await tx.insert(accessGrant).values(
      put.map(({ subject, gives, withholds }) => ({
        placeId: on.kind === 'place' ? on.id : null,
        documentId: on.kind === 'paper' ? on.id : null,
        personId: subject.kind === 'person' ? subject.id : null,
        groupId: subject.kind === 'group' ? subject.id : null,
        everyone: subject.kind === 'everyone',
        gives,
        withholds,
        givenBy: actor.personId,
        givenAt: now(),
      })),
    );
}

async function recorded(tx: Tx, actor: Actor, found: Managed, step: Step) {
  const detail = {
    name: found.name,
    before: stepAsText(found.step),
    after: stepAsText(step),
  };
  const { on } = found;
  return {
    entry: { act: 'access.changed', subjects: [on.id], detail } as const,
    recorded: async (entryId: number) => {
      await tx.insert(accessChange).values({
        entryId,
        placeId: on.kind === 'place' ? on.id : null,
        documentId: on.kind === 'paper' ? on.id : null,
        before: found.step,
        after: step,
      });
      return { entryId, revision: found.revision + 1 };
    },
  };
}

/** A sheet as one canonical text, for the journal: "follows; everyone=see; 8d1f…=see,take−add". */
function stepAsText({ follows, grants }: Step): string {
  const lines = grants
    .map(({ subject, gives, withholds }) => {
      const less = withholds === noCapabilities ? '' : `−${listOf(withholds).join(',')}`;
      return `${subjectKey(subject)}=${listOf(gives).join(',')}${less}`;
    })
    .sort();
  return [follows ? 'follows' : 'stands alone', ...lines].join('; ');
}

const sameStep = (a: Step, b: Step): boolean => stepAsText(a) === stepAsText(b);

/** The grants whose person or group still exists. */
async function knownIn(tx: Tx, grants: readonly Grant[]): Promise<Grant[]> {
  const ids = grants.flatMap(({ subject }) => (subject.kind === 'everyone' ? [] : [subject.id]));
  if (ids.length === 0) return [...grants];
  const people = await tx.select({ id: person.id }).from(person).where(idIn(person.id, ids));
  const groups = await tx.select({ id: personGroup.id }).from(personGroup).where(idIn(personGroup.id, ids));
  const there = new Set([...people.map((row) => `person ${row.id}`), ...groups.map((row) => `group ${row.id}`)]);
  return grants.filter(({ subject }) => subject.kind === 'everyone' || there.has(`${subject.kind} ${subject.id}`));
}

/** Refuses a change by which a manager would lose their own access; keepers always have access. */
async function keepsOwnWayIn(tx: Tx, actor: Actor, on: AccessOn): Promise<void> {
  const [after] =
    on.kind === 'place' ? await tx.select({ scopeId: place.scopeId }).from(place).where(eq(place.id, on.id)) : [];
  const held =
    on.kind === 'place'
      ? await capabilitiesIn(tx, actor, after?.scopeId ?? null)
      : await capabilitiesOn(tx, actor, on.id);
  if (!has(held, 'manage'))
    refuse(
      'not-allowed',
      'You would lose your own way in here. Nothing was saved; leave yourself or your group as manager.',
    );
}

interface Recipient {
  readonly name: string;
  readonly email: string;
  readonly set: CapabilitySet;
}

/** The people whom some grants concern, each once, with the union of what they give. Grants to everyone send no messages. */
async function toTell(tx: Tx, grants: readonly Grant[]): Promise<Recipient[]> {
  const told = new Map<string, Recipient>();
  for (const { subject, gives } of grants) {
    if (subject.kind === 'everyone' || gives === noCapabilities) continue;
    const people = await tx
      .selectDistinct({ name: person.name, email: person.email })
      .from(person)
      .leftJoin(membership, eq(membership.personId, person.id))
      .where(
        and(
          eq(person.active, true),
          subject.kind === 'person' ? eq(person.id, subject.id) : eq(membership.groupId, subject.id),
        ),
      );
    for (const each of people) told.set(each.email, { ...each, set: gives | (told.get(each.email)?.set ?? 0) });
  }
  return [...told.values()];
}

async function tell(actor: Actor, { on, message }: ReadInputOf<'access.set'>, to: Recipient): Promise<boolean> {
  const [named] =
    on.kind === 'place'
      ? await db().select({ name: place.name }).from(place).where(eq(place.id, on.id))
      : await db().select({ name: document.title }).from(document).where(eq(document.id, on.id));
  const name = named?.name ?? '';
  const said = message === null || message === '' ? '' : `${message}\n\n`;
  return trySendMail({
    to: { name: to.name, address: to.email },
    subject: `${actor.name} has opened “${name}” to you`,
    text: `${said}${actor.name} has opened “${name}” to you: you ${setInWords(to.set)}.\n\n${config().EMBRIN_URL}/${on.kind}/${on.id}\n`,
  });
}

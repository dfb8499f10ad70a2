import { and, arrayContains, asc, desc, eq, isNull, like, notLike, sql } from 'drizzle-orm';
import type { Actor } from '@/server/gate/actor';
import { atMoment } from '@/server/base/clock';
import { db } from '@/server/db/client';
import { document, place } from '@/server/db/schema';
import { paperAllows } from '@/server/gate/visible';
import { answerSignOff } from '@/server/signoff/answer';
import { askForSignatures, markOnPaper } from '@/server/signoff/ask';
import { signOffChoices, signOffsOf } from '@/server/signoff/paper';
import { someone, type People, type Places } from './named';
import { demoPassword, keeper, secondKeeper } from './people';

interface Minutes {
  readonly id: string;
  readonly title: string;
  readonly homeId: string;
  readonly filedAt: Date;
}

const dayMs = 86_400_000;
const isoDay = (at: Date): string => at.toISOString().slice(0, 10);

/** The committee whose records are signed in the demo, and who signs them on paper. */
export const signingCommittee = 'Full board';
/** Who signs its minutes beside the keepers. */
const chair = 'Idris Quaye';
/** So many of its scans, the newest, are said to be signed on paper. */
export const markedScans = 6;

/**
 * Who has signed what: the newest minutes without a signed copy by both keepers and an officer, the ones before them half
 * signed, a policy that is to be approved, a lease with somebody outside, and scans of what was signed on paper.
 */
export async function laySignatures(people: People, places: Places, now: Date): Promise<void> {
  const maren = someone(people, keeper.name);
  const isolde = someone(people, secondKeeper);
  const board = someone(places, `Board & committees/${signingCommittee}`);
  const idris = someone(people, chair);
  const [newest, before] = await minutesWithoutScan(someone(places, 'Board & committees'), idris);
  if (newest) await signWhole([idris, isolde, maren], newest, now);
  if (before) {
    const id = await ask(maren, before.id, [isolde, maren], now, {
      inTurn: true,
      dueInDays: 12,
      wording: 'As agreed by the board.',
    });
    await atMoment(now, () => answer(isolde, before.id, id));
  }
  const policy = await firstOf(someone(places, 'Governing papers'), 'Procurement policy');
  if (policy)
    await ask(isolde, policy, [maren, isolde], now, {
      way: 'approve',
      dueInDays: -4,
      askedDaysAgo: 20,
      wording: 'For the review of the tender limits.',
    });
  const lease = await firstOf(someone(places, 'Berth tenants'), 'Berth lease%');
  if (lease)
    await atMoment(now, async () =>
      askForSignatures(maren, {
        ...plain,
        documentId: lease,
        versionNumber: await currentNumber(maren, lease),
        signers: [{ name: 'Rhoda Vance', email: 'rhoda@vance-chandlery.example' }],
        wording: 'Please sign the lease of your berth.',
        dueOn: isoDay(new Date(now.getTime() + 14 * dayMs)),
        remindDays: 3,
      }),
    );
  await markScans(maren, board, now);
}

const plain = {
  way: 'sign',
  inTurn: false,
  needed: null,
  slot: null,
  wording: '',
  dueOn: null,
  remindDays: 0,
} as const;

interface Asking {
  readonly way?: 'sign' | 'approve';
  readonly inTurn?: boolean;
  readonly dueInDays: number;
  readonly askedDaysAgo?: number;
  readonly wording: string;
}

async function ask(by: Actor, documentId: string, signers: readonly Actor[], now: Date, how: Asking): Promise<string> {
  const { dueInDays, askedDaysAgo = 3, ...more } = how;
  return atMoment(new Date(now.getTime() - askedDaysAgo * dayMs), async () => {
    const { slots, likely } = await signOffChoices(by, { documentId });
    const { signOffId } = await askForSignatures(by, {
      ...plain,
      ...more,
      documentId,
      versionNumber: await currentNumber(by, documentId),
      signers: signers.map(({ personId }) => ({ personId })),
      dueOn: isoDay(new Date(now.getTime() + dueInDays * dayMs)),
      remindDays: 3,
      slot: likely === null ? null : (slots[likely]?.slot ?? null),
    });
    return signOffId;
  });
}

async function signWhole(signers: readonly Actor[], { id }: Minutes, now: Date): Promise<void> {
  const [, , asker] = signers;
  if (!asker) return;
  const signOffId = await ask(asker, id, signers, now, {
    inTurn: true,
    dueInDays: 10,
    wording: 'As agreed by the board.',
  });
  for (const [at, who] of signers.entries())
    await atMoment(new Date(now.getTime() - (signers.length - at) * 0.5 * dayMs), () => answer(who, id, signOffId));
}

async function answer(who: Actor, documentId: string, signOffId: string): Promise<void> {
  const { signOffs } = await signOffsOf(who, { documentId });
  const me = signOffs.find(({ id }) => id === signOffId)?.signers.find(({ isMe }) => isMe);
  if (!me) throw new Error(`${who.name} is not asked`);
  await answerSignOff(who, { signerId: me.id, answer: 'agreed', reason: '', password: demoPassword });
}

const currentNumber = async (actor: Actor, documentId: string): Promise<number> =>
  (await signOffsOf(actor, { documentId })).currentNumber;

/** Minutes below a place that somebody may read, beside which no signed scan lies, the newest first. */
function minutesWithoutScan(placeId: string, reader: Actor): Promise<Minutes[]> {
  return db()
    .select({ id: document.id, title: document.title, homeId: document.homeId, filedAt: document.filedAt })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(
      and(
        arrayContains(place.lineage, [placeId]),
        paperAllows(reader, 'see'),
        like(document.title, 'Minutes of %'),
        notLike(document.title, '%, signed'),
        notLike(document.title, '%(draft%'),
        isNull(document.disposedAt),
        sql`not exists (select from ${document} as scan where scan.home_id = ${document.homeId} and scan.title = ${document.title} || ', signed')`,
      ),
    )
    .orderBy(desc(document.filedAt), asc(document.id));
}

async function firstOf(placeId: string, title: string): Promise<string | null> {
  const [found] = await db()
    .select({ id: document.id })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(and(arrayContains(place.lineage, [placeId]), like(document.title, title), isNull(document.disposedAt)))
    .orderBy(desc(document.filedAt), asc(document.id))
    .limit(1);
  return found?.id ?? null;
}

/** The newest scans of signed minutes are said to be just that, by the two who signed them. */
async function markScans(maren: Actor, dossierId: string, now: Date): Promise<void> {
  const rows = await db()
    .select({ scanId: document.id, title: document.title, homeId: document.homeId, filedAt: document.filedAt })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(
      and(
        arrayContains(place.lineage, [dossierId]),
        like(document.title, 'Minutes of %, signed'),
        isNull(document.disposedAt),
      ),
    )
    .orderBy(desc(document.filedAt), asc(document.id))
    .limit(markedScans);
  for (const { scanId, title, homeId, filedAt } of rows) {
    const [minutes] = await db()
      .select({ id: document.id })
      .from(document)
      .where(and(eq(document.homeId, homeId), eq(document.title, title.replace(/, signed$/u, ''))));
    if (!minutes) continue;
    const on = isoDay(filedAt);
    await atMoment(now, async () =>
      markOnPaper(maren, {
        scanId,
        documentId: minutes.id,
        versionNumber: await currentNumber(maren, minutes.id),
        signers: [
          { name: chair, on },
          { name: keeper.name, on },
        ],
      }),
    );
  }
}

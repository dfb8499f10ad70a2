import { eq } from 'drizzle-orm';
import type { AskedOutside } from '@/core/signoff/contract';
import { db } from '../db/client';
import { person, signer, signOff, version } from '../db/schema';
import type { Visitor } from '../outside/visit';
import { signersOf, standingFrom } from './turns';

/** What somebody outside is asked to sign; null where their link only shows a paper. */
export async function askedOutside({ signs }: Visitor): Promise<AskedOutside | null> {
  if (signs === null) return null;
  const [found] = await db()
    .select({ off: signOff, me: signer, number: version.number, sha256: version.sha256, asker: person.name })
    .from(signer)
    .innerJoin(signOff, eq(signOff.id, signer.signOffId))
    .innerJoin(version, eq(version.id, signOff.versionId))
    .innerJoin(person, eq(person.id, signOff.askedBy))
    .where(eq(signer.id, signs.signerId));
  if (!found) return null;
  const { off, me, number, sha256, asker } = found;
  const signers = await signersOf(db(), off.id);
  const isTurn = standingFrom(off, signers).turns.some((at) => signers[at]?.id === me.id);
  const standing = me.answer !== null ? 'answered' : off.state !== 'open' ? 'over' : isTurn ? 'myTurn' : 'later';
  return {
    name: me.name,
    way: off.way,
    wording: off.wording,
    askedBy: asker,
    versionNumber: number,
    sha256,
    standing,
    answer: me.answer,
  };
}

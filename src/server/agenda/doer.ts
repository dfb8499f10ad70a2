import { and, eq } from 'drizzle-orm';
import { has } from '@/core/access/capability';
import { invalidField } from '@/core/errors/issue';
import { Refusal } from '@/core/errors/refusal';
import type { Tx } from '../db/client';
import { person, place, scopeEntry } from '../db/schema';

/** Somebody on whose desk something is put from a dossier: they must be able to see it. @returns their name and address */
export async function doerFor(tx: Tx, personId: string, dossierId: string) {
  const [found] = await tx
    .select({ name: person.name, email: person.email, keeper: person.keeper, held: scopeEntry.capabilities })
    .from(person)
    .innerJoin(place, eq(place.id, dossierId))
    .leftJoin(scopeEntry, and(eq(scopeEntry.scopeId, place.scopeId), eq(scopeEntry.personId, person.id)))
    .where(and(eq(person.id, personId), eq(person.active, true)));
  if (!found) throw new Refusal(invalidField('personId', 'That person is not known here.'));
  if (!found.keeper && !has(found.held ?? 0, 'see'))
    throw new Refusal(
      invalidField(
        'personId',
        `${found.name} may not see this dossier, so it would stand on nobody's desk. Let them see it first.`,
      ),
    );
  return found;
}

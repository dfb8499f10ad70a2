import { and, eq, sql } from 'drizzle-orm';
import { has } from '@/core/access/capability';
import { orRefuse, refuse } from '@/core/errors/refusal';
import { checkFields, readDetails, type DetailField, type Details } from '@/core/dossiers/details';
import { acts, asks } from '../acts/operation';
import { db, type Reader } from '../db/client';
import { filingPlan, place } from '../db/schema';
import { peopleFinder } from './peopleFinder';
import { seriesFor } from '../plans/plans';
import { planOfSeries } from '../plans/read';
import { colleagueNames } from '../expected/rack';
import { dossierFor } from '../expected/slots';

/** The detail fields of a series' dossiers. */
export const fieldsOf = asks('details.fields', async (actor, { seriesId }) => {
  const { held } = await seriesFor(db(), actor, seriesId, 'see');
  const { fields, revision } = await planOfSeries(db(), seriesId);
  return { fields, revision, mayChange: has(held, 'manage') };
});

/** Sets a series' detail fields. Values under a removed field are kept, and shown again if it comes back. */
export const setFields = acts('details.setFields', [], async (tx, actor, input) => {
  const fields = orRefuse(checkFields(input.fields));

  const series = await seriesFor(tx, actor, input.seriesId, 'manage');
  await tx.select({ id: place.id }).from(place).where(eq(place.id, series.id)).for('no key update');
  const before = await planOfSeries(tx, series.id);
  if (before.revision !== input.revision) refuse('conflict');
  const revision = before.revision + 1;
  await tx
    .insert(filingPlan)
    .values({ seriesId: series.id, folders: [], fields, revision })
    .onConflictDoUpdate({ target: filingPlan.seriesId, set: { fields, revision } });
  const detail = { name: series.name, fields: fields.map((each) => each.name).join(', ') };
  return { entry: { act: 'details.fieldsSet', subjects: [series.id], detail }, result: null };
});

/** A dossier's details. */
export const detailsOf = asks('details.of', async (actor, { dossierId }) => {
  const dossier = await dossierFor(db(), actor, dossierId, 'see');
  const { fields } = await planOfSeries(db(), dossier.seriesId);
  const details = await kept(db(), dossierId);
  return {
    fields,
    details,
    names: await colleagueNames(fields, [details]),
    revision: dossier.revision,
    mayChange: has(dossier.held, 'amend'),
  };
});

async function kept(reader: Reader, dossierId: string) {
  const [row] = await reader.select({ details: place.details }).from(place).where(eq(place.id, dossierId));
  return row?.details ?? {};
}

/** Sets all details of a dossier at once. */
export const setDetails = acts('details.set', [], async (tx, actor, input) => {
  const dossier = await dossierFor(tx, actor, input.dossierId, 'amend');
  const { fields } = await planOfSeries(tx, dossier.seriesId);
  const details = orRefuse(readDetails(fields, input.details, await peopleFinder(tx)));
  const before = await kept(tx, dossier.id);
  const names = fields.filter((field) => (before[field.id] ?? '') !== (details[field.id] ?? ''));
  if (names.length === 0) return { entry: null, result: null };
  const changed = await tx
    .update(place)
    .set({ details: { ...besides(fields, before), ...details }, revision: sql`${place.revision} + 1` })
    .where(and(eq(place.id, dossier.id), eq(place.revision, input.revision)))
    .returning({ id: place.id });
  if (changed.length === 0) refuse('conflict');
  const detail = { name: dossier.name, fields: names.map((each) => each.name).join(', ') };
  return { entry: { act: 'details.set', subjects: [dossier.id], detail }, result: null };
});

/** Values kept under removed fields. */
const besides = (fields: readonly DetailField[], before: Details): Details =>
  Object.fromEntries(Object.entries(before).filter(([id]) => fields.every((field) => field.id !== id)));

/** A library with ways in, and looks at them. */
import { PDFDocument } from '@cantoo/pdf-lib';
import MailComposer from 'nodemailer/lib/mail-composer';
import type { WayInSettings } from '@/core/intake/wayIn';
import { db, writableDb } from '@/server/db/client';
import { arrival, wayIn } from '@/server/db/schema';
import { createDossier } from '@/server/dossiers/create';
import type { Actor } from '@/server/gate/actor';
import { arrivalsOf } from '@/server/intake/lists';
import { lookAtWaysIn } from '@/server/intake/ways/look';
import { oneMoreLook } from '@/server/intake/ways/model';
import { keepWayIn, waysIn } from '@/server/intake/ways/ways';
import { arrivalsFolder } from '../arrivals';
import { dropLibrary, freshLibrary, furnished, newcomer } from '../library';

export let keeper: Actor;
export let clerk: Actor;
export let gull: string;
/** The folder for arrivals. */
export let folder: string;
let remove: () => Promise<void>;

/** Founds the library of a test file, in which nothing has arrived before each test. */
export function withWaysIn(): void {
  beforeAll(async () => {
    ({ folder, remove } = await arrivalsFolder());
    keeper = await freshLibrary();
    clerk = await newcomer(keeper, 'Cle Rk');
    const { series } = await furnished(keeper, 'Suppliers');
    gull = (await createDossier(keeper, { seriesId: series.id, name: 'Gull Chandlers', reference: 'S-018' })).id;
  }, 120_000);
  afterAll(async () => {
    await dropLibrary();
    await remove();
  });
  beforeEach(async () => {
    await writableDb().delete(arrival);
    await writableDb().delete(wayIn);
  });
}

let sent = 0;
export const mail = (subject: string, text = 'Attached.'): Promise<Buffer> =>
  new MailComposer({
    from: 'billing@gull.example',
    to: 's-018@library.example',
    subject,
    text,
    messageId: `<${(sent += 1)}@gull.example>`,
  })
    .compile()
    .build();
export const keep = (
  settings: WayInSettings,
  more: { id?: string; revision?: number; password?: string; name?: string } = {},
) => keepWayIn(keeper, { id: null, revision: 0, name: 'A way', on: true, password: '', ...more, settings });
/** A look at all ways in, whether or not it is time. */
export async function look(): Promise<number> {
  await writableDb().update(wayIn).set({ looksWanted: oneMoreLook });
  return lookAtWaysIn();
}
/** What is still being written is seen to change between two looks. */
export const lookTwice = async () => (await look()) + (await look());
export const arrivals = () => db().select().from(arrival);
export const waiting = async () => (await arrivalsOf(keeper, { which: 'waiting' })).arrivals;
export const fault = async () => (await waysIn(keeper, {})).ways[0]?.fault ?? null;
export async function written(lines: readonly string[]): Promise<Buffer> {
  const pdf = await PDFDocument.create();
  const page = pdf.addPage();
  for (const [at, line] of lines.entries()) page.drawText(line, { x: 60, y: 700 - 20 * at });
  return Buffer.from(await pdf.save({ useObjectStreams: false }));
}

import { PDFDocument } from '@cantoo/pdf-lib';
import { atMoment } from '@/server/base/clock';
import { writableDb } from '@/server/db/client';
import { wayIn } from '@/server/db/schema';
import { keepFetchedFile } from '@/server/intake/keep';
import { separatorSheet } from '@/server/intake/separatorSheet';
import { dossierAt } from './arrivals';
import { someone, type Places } from './named';
import { makers } from './papers';

/** What lies in the stack: whose, and what it says. Before the second lies a separator sheet with its reference. */
const stack = [
  {
    from: ['Suppliers', 13],
    title: 'Delivery note',
    says: 'Delivered to the slipway, in two crates. Signed for at the gate.',
  },
  { from: ['Berth tenants', 8], title: 'Insurance of the boat', says: 'The policy runs to 31 October 2027.' },
] as const;
const minutesBefore = 20;

/** The scanner in the corridor, as a way in, and a stack that somebody has just put through it. */
export async function layScans(places: Places, storyEnds: Date): Promise<void> {
  const [scanner] = await writableDb()
    .insert(wayIn)
    .values({
      name: 'Scanner in the corridor',
      settings: { kind: 'scans', folder: 'scanner', atBlanks: false },
      looksMet: 1,
      lookedAt: storyEnds,
      tookAt: storyEnds,
    })
    .returning({ id: wayIn.id });
  if (!scanner) throw new Error('The scanner was not set up');
  const pdf = await PDFDocument.create();
  const add = async (bytes: Uint8Array) => {
    const file = await PDFDocument.load(bytes);
    for (const page of await pdf.copyPages(file, file.getPageIndices())) pdf.addPage(page);
  };
  for (const [at, { from, title, says }] of stack.entries()) {
    const { name, reference } = await dossierAt(someone(places, from[0]), from[1]);
    if (at > 0) await add(await separatorSheet(reference));
    const written = new Date(storyEnds.getTime() - minutesBefore * 60_000);
    const draft = { title, subtitle: name, written, author: name, figures: [], paragraphs: [`${name}. ${says}`] };
    await add((await makers['pdf']?.(draft)) ?? new Uint8Array());
  }
  const bytes = Buffer.from(await pdf.save());
  const scan = { way: 'scan' as const, fileName: 'Scan0042.pdf', mediaType: 'application/pdf' };
  await atMoment(new Date(storyEnds.getTime() - minutesBefore * 60_000), () =>
    keepFetchedFile(bytes, scan, { wayInId: scanner.id, origin: `${scanner.id}/demo` }),
  );
}

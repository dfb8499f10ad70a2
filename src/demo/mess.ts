import { disposePapers } from '@/server/disposal/dispose';
import { movePapers } from '@/server/documents/amend';
import { fileBuffer } from './file';
import { type PaperPlan } from './papers';
import { keeper } from './people';
import { someone, type People, type Places } from './named';

/** What a library looks like after four years: papers twice, one in the wrong place, some thrown away. */
export async function addMess(
  people: People,
  places: Places,
  filed: readonly { id: string; plan: PaperPlan }[],
  make: (plan: PaperPlan) => Promise<Buffer>,
): Promise<void> {
  const maren = someone(people, keeper.name);
  const invoices = filed.filter(({ plan }) => plan.fileName.startsWith('INVOICE'));
  const twice = invoices.slice(-3);
  for (const { plan } of twice) {
    await fileBuffer(
      maren,
      someone(places, `Suppliers/${plan.dossier}/${plan.year}`),
      plan.fileName,
      await make(plan),
      'both',
    );
  }
  const astray = invoices[5];
  if (astray) await movePapers(maren, { documentIds: [astray.id], toId: someone(places, 'Works/Pontoon repair/Cost') });
  const notes = filed.filter(({ plan }) => plan.ending === 'txt').slice(0, 4);
  await disposePapers(maren, { documentIds: notes.map(({ id }) => id) });
}

import { orNotFound, pageActor, pageId } from '@/app/pageActor';
import { agendaSheet } from '@/server/agenda/read';
import { MeetingPage } from '@/ui/agenda/MeetingPage';

interface Props {
  readonly params: Promise<{ dossierId: string }>;
}

export const metadata = { title: 'Standing items' };

/** The standing items with which the agendas of a dossier begin. */
export default async function Standing({ params }: Props) {
  const { dossierId: raw } = await params;
  const actor = await pageActor(`/standing/${raw}`);
  const of = { dossierId: pageId(raw) };
  await orNotFound(agendaSheet(actor, { of }));
  return <MeetingPage of={of} />;
}

import { orNotFound, pageActor, pageId } from '@/app/pageActor';
import { agendaSheet } from '@/server/agenda/read';
import { MeetingPage } from '@/ui/agenda/MeetingPage';

interface Props {
  readonly params: Promise<{ meetingId: string }>;
}

export const metadata = { title: 'Meeting' };

/** A meeting: its agenda, and who attends. */
export default async function Meeting({ params }: Props) {
  const { meetingId: raw } = await params;
  const actor = await pageActor(`/meeting/${raw}`);
  const of = { meetingId: pageId(raw) };
  await orNotFound(agendaSheet(actor, { of }));
  return <MeetingPage of={of} />;
}

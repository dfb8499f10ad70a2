import { librarySettings } from '@/server/library/settings';
import { StopForm } from '@/ui/follow/StopForm';
import { FrontPage } from '@/ui/session/FrontPage';

export const metadata = { title: 'Stop these mails' };

/** Where the link at the end of a summary leads: one press stops them, without signing in. */
export default async function Stop({ params }: { params: Promise<{ personId: string; mark: string }> }) {
  const { personId, mark } = await params;
  const { name } = await librarySettings();
  return (
    <FrontPage title={name} about="Mails about what you follow.">
      <StopForm personId={personId} mark={mark} />
    </FrontPage>
  );
}

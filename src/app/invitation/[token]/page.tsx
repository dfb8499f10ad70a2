import { connection } from 'next/server';
import { issueKinds } from '@/core/errors/issue';
import { Refusal } from '@/core/errors/refusal';
import { openInvitation } from '@/server/people/people';
import { FrontPage } from '@/ui/session/FrontPage';
import { JoinForm } from '@/ui/session/JoinForm';

export const metadata = { title: 'Invitation' };

export default async function InvitationPage({ params }: { readonly params: Promise<{ token: string }> }) {
  await connection();
  const { token } = await params;
  const invited = await openInvitation(token).catch((error: unknown) => {
    if (error instanceof Refusal) return null;
    throw error;
  });
  if (!invited) {
    return (
      <FrontPage title="This link is no longer good" about={issueKinds.gone.says}>
        <a href="/sign-in" className="text-brine-ink underline">
          Back to sign-in
        </a>
      </FrontPage>
    );
  }
  return (
    <FrontPage title="You are invited" about={`As ${invited.email}.`}>
      <JoinForm token={token} name={invited.name} email={invited.email} />
    </FrontPage>
  );
}

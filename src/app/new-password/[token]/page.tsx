import { FrontPage } from '@/ui/session/FrontPage';
import { NewPasswordForm } from '@/ui/session/NewPasswordForms';

export const metadata = { title: 'A new password' };

export default async function NewPasswordPage({ params }: { readonly params: Promise<{ token: string }> }) {
  const { token } = await params;
  return (
    <FrontPage title="A new password" about="It ends all sessions of your account.">
      <NewPasswordForm token={token} />
    </FrontPage>
  );
}

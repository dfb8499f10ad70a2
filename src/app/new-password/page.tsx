import { FrontPage } from '@/ui/session/FrontPage';
import { AskNewPasswordForm } from '@/ui/session/NewPasswordForms';

export const metadata = { title: 'A new password' };

export default function AskNewPasswordPage() {
  return (
    <FrontPage title="A new password" about="A message with a link goes to the address of your account.">
      <AskNewPasswordForm />
    </FrontPage>
  );
}

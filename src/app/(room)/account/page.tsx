import { redirect } from 'next/navigation';
import { pageActor } from '@/app/pageActor';
import { AccountPage } from '@/ui/people/AccountPage';

export const metadata = { title: 'My account' };

export default async function Account() {
  // An account is one's own: nobody is shown another's.
  if ((await pageActor('/account')).seenBy) redirect('/desk');
  return <AccountPage />;
}

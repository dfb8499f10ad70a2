import { pageActor } from '@/app/pageActor';
import { AccountPage } from '@/ui/people/AccountPage';

export const metadata = { title: 'My account' };

export default async function Account() {
  await pageActor('/account');
  return <AccountPage />;
}

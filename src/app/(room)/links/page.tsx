import { pageActor } from '@/app/pageActor';
import { LinksPage } from '@/ui/links/LinksPage';

export const metadata = { title: 'Outside links' };

export default async function Links() {
  await pageActor('/links');
  return <LinksPage />;
}

import { connection } from 'next/server';
import { redirect } from 'next/navigation';
import { isFounded } from '@/server/library/found';
import { FoundForm } from '@/ui/session/FoundForm';
import { FrontPage } from '@/ui/session/FrontPage';

export const metadata = { title: 'A new library' };

export default async function BeginPage() {
  await connection();
  if (await isFounded()) redirect('/desk');
  return (
    <FrontPage title="A new library" about="It is empty, and you are its first keeper: the person who runs it.">
      <FoundForm />
    </FrontPage>
  );
}

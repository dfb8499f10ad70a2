import { headers } from 'next/headers';
import { redirect } from 'next/navigation';
import { actorFrom } from '@/server/auth/actorFrom';
import { isFounded } from '@/server/library/found';
import { librarySettings } from '@/server/library/settings';
import { FrontPage } from '@/ui/session/FrontPage';
import { SignInPageForm } from '@/ui/session/SignInPageForm';

export const metadata = { title: 'Sign in' };

/** Only a path of our own is gone on to: never another site's address. */
const ownPath = (next: string | string[] | undefined): string =>
  typeof next === 'string' && /^\/(?![/\\])/u.test(next) ? next : '/desk';

export default async function SignInPage({
  searchParams,
}: {
  readonly searchParams: Promise<{ next?: string | string[] }>;
}) {
  if (!(await isFounded())) redirect('/begin');
  const next = ownPath((await searchParams).next);
  if (await actorFrom(await headers())) redirect(next);
  const { name } = await librarySettings();
  return (
    <FrontPage title={name} about="The shared library. Sign in with the address a keeper knows you by.">
      <SignInPageForm next={next} />
    </FrontPage>
  );
}

import { issueKinds } from '@/core/errors/issue';
import { Link } from '@/ui/kit/link';

export default function NotFound() {
  return (
    <main className="grid h-full flex-1 place-items-center p-6">
      <div className="max-w-md text-center">
        <h1 className="font-condensed text-xl">Nothing here</h1>
        <p className="mt-1 text-soft">{issueKinds['not-found'].says}</p>
        <Link
          href="/desk"
          className="mt-4 inline-flex h-[32px] items-center rounded-sm bg-brine px-4 font-semibold text-on-brine"
        >
          To my desk
        </Link>
      </div>
    </main>
  );
}

'use client';

import { issueKinds } from '@/core/errors/issue';
import { Button } from '@/ui/kit/button';

export default function Fault({
  error,
  reset,
}: {
  readonly error: Error & { readonly digest?: string };
  readonly reset: () => void;
}) {
  return (
    <main className="grid h-full flex-1 place-items-center p-6">
      <div className="max-w-md text-center">
        <h1 className="font-condensed text-xl">This page could not be made</h1>
        <p className="mt-1 mb-4 text-soft">
          {issueKinds.unavailable.says}
          {error.digest !== undefined && ` The number of this fault is ${error.digest}.`}
        </p>
        <Button look="main" onClick={reset}>
          Try again
        </Button>
      </div>
    </main>
  );
}

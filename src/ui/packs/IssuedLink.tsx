import type { ReactNode } from 'react';

/**
 * A link to an issue of a pack. Its page is loaded anew, and not joined to the one before: only then does the service worker
 * that keeps packs see to it.
 */
export function IssuedLink({
  issueId,
  className,
  children,
}: {
  readonly issueId: string;
  readonly className: string;
  readonly children: ReactNode;
}) {
  return (
    <a href={`/issued/${issueId}`} className={className}>
      {children}
    </a>
  );
}

import NextLink from 'next/link';
import type { ComponentProps } from 'react';

/**
 * A link to a page of the library. Does not prefetch: pages are computed for each visit, so that prefetching every
 * visible link would waste the server's work.
 */
export function Link(props: ComponentProps<typeof NextLink>) {
  return <NextLink prefetch={false} {...props} />;
}

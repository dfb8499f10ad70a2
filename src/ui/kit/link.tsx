import NextLink from 'next/link';
import type { ComponentProps } from 'react';

/**
 * A link to a page of the library. Nothing is fetched before it is followed: what a page shows is worked out anew for who
 * looks and when, so that fetching what is merely in sight would have the server do all of it for nothing.
 */
export function Link(props: ComponentProps<typeof NextLink>) {
  return <NextLink prefetch={false} {...props} />;
}

'use client';

import { SafeFrame } from './SafeFrame';
import type { Source } from './source';
import { useViewForm } from './useViewForm';
import { Fetching } from './Waiting';

/** A web page, as safe markup. */
export function Markup({ source }: { readonly source: Source }) {
  const { data, error } = useViewForm(source, 'markup');
  if (!data) return <Fetching failed={error !== null} />;
  return <SafeFrame markup={data.markup} name={source.title} />;
}

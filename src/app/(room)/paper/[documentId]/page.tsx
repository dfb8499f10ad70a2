import type { Metadata } from 'next';
import { cache } from 'react';
import { orNotFound, pageActor, pageId } from '@/app/pageActor';
import { docketOf } from '@/server/documents/docket';
import { Reader } from '@/ui/documents/Reader';

interface Props {
  readonly params: Promise<{ documentId: string }>;
}

/** Opened once, for the title and for the page. */
const opened = cache(async (raw: string) => {
  const actor = await pageActor(`/paper/${raw}`);
  return orNotFound(docketOf(actor, { documentId: pageId(raw) }));
});

const asked = async ({ params }: Props) => opened((await params).documentId);

export async function generateMetadata(props: Props): Promise<Metadata> {
  return { title: (await asked(props)).title };
}

export default async function PaperPage(props: Props) {
  return <Reader initial={await asked(props)} />;
}

import type { Metadata } from 'next';
import { orNotFound, pageActor, pageId } from '@/app/pageActor';
import { docketOf } from '@/server/documents/docket';
import { Reader } from '@/ui/documents/Reader';

interface Props {
  readonly params: Promise<{ documentId: string }>;
}

async function asked({ params }: Props) {
  const { documentId: raw } = await params;
  const actor = await pageActor(`/paper/${raw}`);
  return orNotFound(docketOf(actor, { documentId: pageId(raw) }));
}

export async function generateMetadata(props: Props): Promise<Metadata> {
  return { title: (await asked(props)).title };
}

export default async function PaperPage(props: Props) {
  return <Reader initial={await asked(props)} />;
}

import type { Metadata } from 'next';
import { cache } from 'react';
import { orNotFound, pageActor, pageId } from '@/app/pageActor';
import { docketOf } from '@/server/documents/docket';
import { readingOfPaper } from '@/server/reading/read';
import { Reader } from '@/ui/documents/Reader';

interface Props {
  readonly params: Promise<{ documentId: string }>;
}

/** Opened once, for the title and for the page. */
const opened = cache(async (raw: string) => {
  const actor = await pageActor(`/paper/${raw}`);
  const documentId = pageId(raw);
  const [docket, reading] = await orNotFound(
    Promise.all([
      docketOf(actor, { documentId }),
      readingOfPaper(actor, { documentId, version: null, attachment: null }),
    ]),
  );
  return { docket, reading };
});

const asked = async ({ params }: Props) => opened((await params).documentId);

export async function generateMetadata(props: Props): Promise<Metadata> {
  return { title: (await asked(props)).docket.title };
}

export default async function PaperPage(props: Props) {
  const { docket, reading } = await asked(props);
  return <Reader initial={docket} reading={reading} />;
}

import type { Metadata } from 'next';
import { cache } from 'react';
import { z } from 'zod';
import { Refusal } from '@/core/errors/refusal';
import { orNotFound, pageActor, pageId } from '@/app/pageActor';
import { docketOf } from '@/server/documents/docket';
import { readingOfPaper } from '@/server/reading/read';
import { Reader } from '@/ui/documents/Reader';

interface Props {
  readonly params: Promise<{ documentId: string }>;
  readonly searchParams: Promise<{ readonly attachment?: string | string[]; readonly version?: string | string[] }>;
}

/** Opened once, for the title and for the page. */
const opened = cache(async (raw: string, version: number | null) => {
  const actor = await pageActor(`/paper/${raw}`);
  const documentId = pageId(raw);
  const [docket, reading] = await orNotFound(
    Promise.all([docketOf(actor, { documentId }), readingOfPaper(actor, { documentId, version, attachment: null })]),
  );
  return { docket, reading };
});

const asked = async (props: Props) => opened((await props.params).documentId, await versionAsked(props));

const counting = z.coerce.number().int().positive().max(1_000_000);

/** The version that an address asks for; null for the current one. */
const versionAsked = async ({ searchParams }: Props): Promise<number | null> =>
  counting.safeParse((await searchParams).version).data ?? null;

/** The attachment that an address asks for, by its number; null where it asks for none, or for one that is not there. */
async function attachmentAsked({ params, searchParams }: Props): Promise<{ number: number; name: string } | null> {
  const number = counting.safeParse((await searchParams).attachment).data;
  if (number === undefined) return null;
  const { documentId } = await params;
  const actor = await pageActor(`/paper/${documentId}`);
  try {
    const { fileName } = await readingOfPaper(actor, {
      documentId: pageId(documentId),
      version: null,
      attachment: number,
    });
    return { number, name: fileName };
  } catch (error) {
    if (error instanceof Refusal) return null;
    throw error;
  }
}

export async function generateMetadata(props: Props): Promise<Metadata> {
  return { title: (await asked(props)).docket.title };
}

export default async function PaperPage(props: Props) {
  const { docket, reading } = await asked(props);
  return (
    <Reader
      initial={docket}
      reading={reading}
      version={await versionAsked(props)}
      opensAt={await attachmentAsked(props)}
    />
  );
}

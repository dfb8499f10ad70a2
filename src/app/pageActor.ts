import { headers } from 'next/headers';
import { notFound, redirect } from 'next/navigation';
import { z } from 'zod';
import { Refusal } from '@/core/errors/refusal';
import type { Actor } from '@/server/gate/actor';
import { actorFrom } from '@/server/auth/actorFrom';

/** The person a page is made for; without one, the page is the sign-in, which comes back here. */
export async function pageActor(path: string): Promise<Actor> {
  const sent = await headers();
  const actor = await actorFrom(sent);
  return actor ?? redirect(`/sign-in?next=${encodeURIComponent(sent.get('x-asked-for') ?? path)}`);
}

/** An id out of an address: one that is none is as little there as one made up. */
export const pageId = (raw: string): string => z.uuid().safeParse(raw).data ?? notFound();

/** Refusals of what is not there, not open to the person, or not of the kind that the page shows. */
const notThere: ReadonlySet<string> = new Set(['not-found', 'not-allowed', 'invalid']);

/** What was asked for, or the one page for all that is not there or not open to the person. */
export async function orNotFound<T>(asked: Promise<T>): Promise<T> {
  return asked.catch((error: unknown) => {
    if (error instanceof Refusal && notThere.has(error.issue.kind)) notFound();
    throw error;
  });
}

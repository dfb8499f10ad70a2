'use client';

import { useMemo, useState } from 'react';
import type { ArrivalField } from '@/core/intake/contract';
import type { PageMark } from '../reading/pageMarks';
import { useAsk } from '../server/useCall';

/** A field of a part of an arrival. */
interface FieldAt {
  readonly attachment: number | null;
  readonly columnId: string;
}

const keyOf = ({ attachment, columnId }: FieldAt): string => `${attachment} ${columnId}`;

/**
 * What is filled in for the parts of an arrival at the place where it would go: what is proposed, until somebody types something
 * else; that stays when another place is chosen.
 * @param placeId null: no place is chosen yet
 */
export function useFields(arrivalId: string, placeId: string | null) {
  const { data, error, isPlaceholderData } = useAsk(
    'arrival.fields',
    { arrivalId, placeId: placeId ?? '' },
    { enabled: placeId !== null, keepPrevious: true },
  );
  const [typed, setTyped] = useState<ReadonlyMap<string, string>>(new Map());
  const [at, setAt] = useState<FieldAt | null>(null);
  const fieldsOf = (attachment: number | null): readonly ArrivalField[] =>
    (placeId !== null && data?.find((part) => part.attachment === attachment)?.fields) || [];
  const textOf = (attachment: number | null, { columnId, text }: ArrivalField): string =>
    typed.get(keyOf({ attachment, columnId })) ?? text;
  const current = at === null ? undefined : fieldsOf(at.attachment).find(({ columnId }) => columnId === at.columnId);
  const type = (attachment: number | null, columnId: string, text: string) =>
    setTyped(new Map(typed).set(keyOf({ attachment, columnId }), text));
  /** Null where it is chosen from a list, or nobody is at a field. */
  const take = at && current?.choices === null ? (words: string) => type(at.attachment, at.columnId, words) : null;
  // The same object while it is the same field: it is gone to once.
  const page = current?.at?.page ?? null;
  const to = useMemo(() => (page === null ? null : { page }), [page]);
  return {
    /** Whether they are those of that place: without them it would be filed without its values. */
    isHere: data !== undefined && !isPlaceholderData,
    error,
    fieldsOf,
    textOf,
    type,
    take,
    to,
    /** The field that somebody is at. */
    current: current ?? null,
    enter: (attachment: number | null, columnId: string) => setAt({ attachment, columnId }),
    valuesOf: (attachment: number | null): Record<string, string> =>
      Object.fromEntries(fieldsOf(attachment).map((field) => [field.columnId, textOf(attachment, field)])),
    marksOn: (attachment: number | null): PageMark[] =>
      fieldsOf(attachment).flatMap(({ columnId, name, at: stands }) =>
        stands?.spot
          ? [
              {
                page: stands.page,
                spot: stands.spot,
                name,
                current: columnId === at?.columnId && attachment === at.attachment,
              },
            ]
          : [],
      ),
  };
}

/** What is filled in for the parts of an arrival. */
export type Fields = ReturnType<typeof useFields>;

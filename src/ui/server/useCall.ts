'use client';

import {
  keepPreviousData,
  QueryClient,
  useMutation,
  useQuery,
  useQueryClient,
  type UseQueryResult,
} from '@tanstack/react-query';
import type { InputOf, OperationName, OutputOf } from '@/core/contract';
import { Refusal } from '@/core/errors/refusal';
import { say } from '../kit/notice';
import { call, saysOf } from './call';

const isAway = (error: unknown): boolean => error instanceof Refusal && error.issue.kind === 'unavailable';

/** While the library cannot be reached, questions are asked again by themselves; other refusals stand. */
export const makeQueryClient = (): QueryClient =>
  new QueryClient({
    defaultOptions: {
      queries: { retry: (count, error) => isAway(error) && count < 20, retryDelay: 1500, staleTime: 5000 },
    },
  });

const countingAgainMs = 700;
const isCounting = (data: unknown): boolean =>
  typeof data === 'object' && data !== null && 'state' in data && data.state === 'counting';

/** Asks a question and keeps its answer fresh; the answer before is shown until the next one is there. */
export function useAsk<N extends OperationName>(
  name: N,
  input: InputOf<N>,
  options: {
    readonly enabled?: boolean;
    readonly initialData?: OutputOf<N>;
    readonly keepPrevious?: boolean;
    /** Asks again and again while the library is still being read and the answer says that it is `counting`. */
    readonly untilCounted?: boolean;
    /** Asks again after so many milliseconds, as long as the answer calls for it. */
    readonly again?: (answer: OutputOf<N>) => number | false;
  } = {},
): UseQueryResult<OutputOf<N>> {
  return useQuery<OutputOf<N>>({
    queryKey: [name, input],
    queryFn: () => call(name, input),
    enabled: options.enabled ?? true,
    ...(options.initialData === undefined ? {} : { initialData: options.initialData }),
    ...(options.untilCounted
      ? { refetchInterval: (query) => (isCounting(query.state.data) ? countingAgainMs : (false as const)) }
      : {}),
    ...(options.again
      ? {
          refetchInterval: ({ state: { data } }) => (data === undefined ? false : (options.again?.(data) ?? false)),
        }
      : {}),
    ...(options.keepPrevious ? { placeholderData: keepPreviousData } : {}),
  });
}

/** Asks everything on the screen anew, after acts that were called one by one. */
export function useRefresh(): () => void {
  const queries = useQueryClient();
  return () => void queries.invalidateQueries();
}

/**
 * Does an act; afterwards everything on the screen is asked anew. A refusal is said in a notice unless the
 * caller shows it where it belongs.
 */
export function useAct<N extends OperationName>(name: N, options: { readonly quiet?: boolean } = {}) {
  const queries = useQueryClient();
  return useMutation<OutputOf<N>, Error, InputOf<N>>({
    mutationFn: (input) => call(name, input),
    onSuccess: () => void queries.invalidateQueries(),
    onError: (error) => {
      if (!options.quiet) say.refusal(saysOf(error));
    },
  });
}

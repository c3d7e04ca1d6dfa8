import { QueryClient, useMutation, useQuery } from '@tanstack/vue-query';
import type { Route } from '@clear-mark/contract';
import { computed, type ComputedRef } from 'vue';
import type { z } from 'zod';
import { request, type Given, NoServer, wordsOf } from './client.ts';

/** Tries in all, where the server was not reached; a refusal is an answer and is not asked for again. */
const TRIES = 2;

/**
 * What was read from the server for views: shown at once when a view is opened again, and asked for again then. What must be
 * readable without a network (the class, its open pieces, their sheets) is not here but on the device: `useClassroom`.
 */
export const queries = new QueryClient({
  defaultOptions: {
    queries: {
      // A school's server is reached where the internet is not: what the device thinks of its network decides nothing.
      networkMode: 'always',
      retry: (failed, error) => error instanceof NoServer && failed + 1 < TRIES,
      retryDelay: 500,
    },
  },
});

const keyOf = <R extends Route>(route: R, given: Given<R>): readonly unknown[] => [route.path, given];

const subjectOf = (key: readonly unknown[] | undefined): string =>
  JSON.stringify((key?.[1] as { params?: unknown } | null | undefined)?.params ?? null);

export interface Reply<T> {
  /** The newest answer; null until one came. */
  readonly found: ComputedRef<T | null>;
  /** Why the last question failed, in words; null while it holds. */
  readonly failure: ComputedRef<string | null>;
  /** Asks again now. */
  readonly again: () => Promise<void>;
  /** What a change was answered with holds from now on, without a question. */
  readonly put: (reply: T) => void;
}

/**
 * What a route replies to what is given, and again whenever that changes. An answer that comes after a newer question is
 * dropped. With `given` null nothing is asked.
 */
export function useReply<R extends Route>(
  route: R,
  given: () => Given<R> | null,
): Reply<z.infer<R['reply']>> {
  type T = z.infer<R['reply']>;
  const asked = computed(given);
  const { data, error, refetch } = useQuery(
    {
      queryKey: computed(() => [route.path, asked.value]),
      queryFn: ({ queryKey }) => request<Route>(route, queryKey[1] as never) as Promise<T>,
      enabled: computed(() => asked.value !== null),
      // Another filter of the same subject: what was there stays until its answer is.
      placeholderData: ((last: T | undefined, of: { queryKey: readonly unknown[] } | undefined) =>
        last !== undefined && subjectOf(of?.queryKey) === subjectOf([null, asked.value])
          ? last
          : undefined) as never,
      shallow: true,
    },
    queries,
  );
  return {
    found: computed(() => (data.value as T | undefined) ?? null),
    failure: computed(() => (error.value === null ? null : wordsOf(error.value))),
    again: async () => void (await refetch()),
    put: (reply) => {
      if (asked.value) queries.setQueryData(keyOf(route, asked.value), reply as never);
    },
  };
}

/** Asks once, for what is not a view of its own, with the same tries. Errors: `Refusal`, `NoServer`. */
export const askOnce = <R extends Route>(route: R, given: Given<R>): Promise<z.infer<R['reply']>> =>
  queries.fetchQuery({ queryKey: keyOf(route, given), queryFn: () => request(route, given) });

/** Something of this class changed: what is seen of it is asked for again, the rest when it is next seen. */
export function classChanged(classId: string): void {
  void queries.invalidateQueries({
    predicate: ({ queryKey }) => (queryKey[1] as { params?: { id?: string } } | null)?.params?.id === classId,
  });
}

/** Somebody else sits at this device now. */
export const forgetReplies = (): void => queries.clear();

export interface Acts {
  /** Why the last act failed, in words; null while one is on its way or after one that was done. */
  readonly failure: ComputedRef<string | null>;
  readonly busy: ComputedRef<boolean>;
  /** Does it; whether it was done. */
  readonly act: (work: () => Promise<unknown>) => Promise<boolean>;
}

/** Something that a view asks the server to do. It is tried once: what the server did with a lost request is not known. */
export function useAct(): Acts {
  const { mutateAsync, error, isPending } = useMutation(
    { mutationFn: (work: () => Promise<unknown>) => work(), networkMode: 'always' },
    queries,
  );
  return {
    failure: computed(() => (error.value === null ? null : wordsOf(error.value))),
    busy: computed(() => isPending.value),
    act: (work) =>
      mutateAsync(work).then(
        () => true,
        () => false,
      ),
  };
}

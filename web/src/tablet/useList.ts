import { QueueAnswer } from '@careful-seam/contract/api/queue';
import { useInfiniteQuery, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { z } from 'zod';
import { errorWords } from '../ui/words';
import { call } from './api';
import { useStore } from './store';

/** A list that the office reads from the server when it is looked at. */
export function useList<T extends z.ZodType>(schema: T, path: string) {
  return useQuery({ queryKey: [path], queryFn: () => call(schema, 'GET', path) });
}

/** The same, read anew with each round of the tablet: what somebody wrote elsewhere moves it. */
export function useLiveList<T extends z.ZodType>(schema: T, path: string) {
  const lastSyncAt = useStore((s) => s.lastSyncAt);
  const queries = useQueryClient();
  useEffect(() => {
    if (lastSyncAt !== null) void queries.invalidateQueries({ queryKey: [path] });
  }, [lastSyncAt, path, queries]);
  return useList(schema, path);
}

/** A list that comes a page at a time; `next` gives the path of the page after one, or null after the last. */
export function usePages<T extends z.ZodType>(
  schema: T,
  path: string,
  next: (page: z.infer<T>) => string | null,
  enabled = true,
) {
  return useInfiniteQuery({
    enabled,
    queryKey: [path],
    queryFn: ({ pageParam }) => call(schema, 'GET', pageParam),
    initialPageParam: path,
    getNextPageParam: next,
  });
}

/** What waits for the manager in all showers of the firm. */
export function useQueue(enabled = true) {
  const next = ({ next }: z.infer<typeof QueueAnswer>) =>
    next === null ? null : `/api/queue?from=${encodeURIComponent(next)}`;
  return usePages(QueueAnswer, '/api/queue', next, enabled);
}

/** A change that the office sends: its problem as a sentence, and the lists that are read anew after it. */
export function useChange(paths: readonly string[]) {
  const queries = useQueryClient();
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const change = async <T extends z.ZodType>(
    schema: T,
    method: string,
    path: string,
    body?: unknown,
  ): Promise<z.infer<T> | null> => {
    setBusy(true);
    try {
      const answer = await call(schema, method, path, body);
      setProblem(null);
      for (const list of paths) await queries.invalidateQueries({ queryKey: [list] });
      return answer;
    } catch (error) {
      setProblem(errorWords(error));
      return null;
    } finally {
      setBusy(false);
    }
  };
  return { change, problem, busy };
}

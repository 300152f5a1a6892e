import { useMemo } from 'react';
import { useStore } from './store';

/** The name of a stage in the language that is spoken, by its key; what the server told where no rule book here knows it. */
export function useStageLabels(): (key: string, told: string) => string {
  const books = useStore((s) => s.books);
  const labels = useMemo(() => {
    const found = new Map<string, string>();
    for (const book of [...books.values()].sort((a, b) => a.version - b.version))
      for (const method of book.methods) for (const stage of method.stages) found.set(stage.key, stage.label);
    return found;
  }, [books]);
  return (key, told) => labels.get(key) ?? told;
}

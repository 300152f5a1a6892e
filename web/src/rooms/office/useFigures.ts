import { useForm } from 'react-hook-form';
import type { z } from 'zod';
import { useParts } from '../../tablet/store';
import { useChange } from '../../tablet/useList';

/** What is typed, by the names of figures; nothing where what is shipped holds. */
type Typed = { figures: Record<string, string> };

/**
 * A form of figures that the firm may set in the place of those that are shipped, kept under a path by a manager. `kept` are those that it
 * has set, as one types them; `names` are all there are; `toFigure` reads one. What the server tells a moment later stands in the form too,
 * beside what is typed meanwhile.
 */
export function useFigures<S extends z.ZodType>(
  schema: S,
  path: string,
  names: readonly string[],
  kept: Readonly<Record<string, string>>,
  toFigure: (text: string) => number,
) {
  const { sync } = useParts('sync');
  const { change, problem, busy } = useChange([]);
  const { register, handleSubmit, formState, reset } = useForm<Typed>({
    // A field that is not named here counts as changed from the start, and would keep what it says.
    values: { figures: Object.fromEntries(names.map((name) => [name, kept[name] ?? ''])) },
    resetOptions: { keepDirtyValues: true },
  });
  const keep = handleSubmit(async (typed) => {
    const figures = Object.fromEntries(
      Object.entries(typed.figures).flatMap(([name, text]) => (text === '' ? [] : [[name, toFigure(text)]])),
    );
    if (!(await change(schema, 'PUT', path, figures))) return;
    reset(typed);
    await sync();
  });
  return {
    /** What binds a field to a figure. */
    field: (name: string) => register(`figures.${name}`),
    /** Sends what is typed. */
    keep: (event: React.FormEvent) => void keep(event),
    problem,
    /** There is nothing to keep, or it is being kept. */
    rests: busy || !formState.isDirty,
  };
}

import { type ComponentType, use } from 'react';

/** Fetches the code of something that is shown. */
export type Load<P extends object = object> = () => Promise<{ default: ComponentType<P> }>;

/** Code that is on its way, or here. */
const coming = new Map<unknown, unknown>();

/** Code, fetched once. One that could not be had stays so until it is forgotten: what is drawn anew meanwhile does not ask again and again. */
function fetched<P extends object>(load: Load<P>): ReturnType<Load<P>> {
  const known = coming.get(load) as ReturnType<Load<P>> | undefined;
  if (known) return known;
  const code = load();
  coming.set(load, code);
  // Whoever shows it says what happened.
  code.catch(() => undefined);
  return code;
}

/** The next time it is wanted it is asked for again. */
export const forget = <P extends object>(load: Load<P>): void => void coming.delete(load);

/** Fetches code that is wanted later; what can't be had now is asked for again when it is shown. */
export const fetchAhead = async <P extends object>(load: Load<P>): Promise<void> =>
  fetched(load).then(
    () => undefined,
    () => forget(load),
  );

/** Numbers of what is loaded, by the function that loads it. */
const numbers = new WeakMap<object, number>();
/** How many there are. */
let counted = 0;
/** Tells one thing that is loaded from another, so that each has a place of its own while it is on its way. */
export function numberOf(load: object): number {
  if (!numbers.has(load)) {
    counted += 1;
    numbers.set(load, counted);
  }
  return numbers.get(load)!;
}

/** What was fetched, once it is here; until then what is around it waits. */
export function Fetched<P extends object>({ load, props }: { load: Load<P>; props: P }) {
  const { default: Shown } = use(fetched(load));
  return <Shown {...props} />;
}

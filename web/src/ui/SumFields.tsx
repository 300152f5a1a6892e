/** The lengths that a sum takes. */
interface Props<K extends string> {
  /** The fields, two in a row. */
  names: readonly K[];
  /** What each is called. */
  label: (name: K) => string;
  /** What stands in each. */
  typed: Readonly<Record<K, string>>;
  /** Told of every key. */
  onType: (typed: Record<K, string>) => void;
}

/** The lengths of a sum, two in a row. */
export function SumFields<K extends string>({ names, label, typed, onType }: Props<K>) {
  return (
    <div className="grid grid-cols-2 gap-2">
      {names.map((name) => (
        <label key={name} className="flex flex-col justify-end text-sm">
          <span className="text-soft leading-tight">{label(name)}</span>
          <input
            className="field font-bold text-lg"
            value={typed[name]}
            onChange={(e) => onType({ ...typed, [name]: e.target.value })}
          />
        </label>
      ))}
    </div>
  );
}

/** What a sum comes to: sentences, or what keeps it from being worked out. */
export function SumResult({ lines, problem }: { lines: readonly string[]; problem: string | null }) {
  if (problem)
    return (
      <p role="alert" className="text-hold">
        {problem}
      </p>
    );
  return (
    <ul data-testid="sum" className="border-ink border-l-4 pl-2 text-lg leading-snug" aria-live="polite">
      {lines.map((line, i) => (
        <li key={line} className={i === 0 ? 'font-bold' : 'text-base'}>
          {line}
        </li>
      ))}
    </ul>
  );
}

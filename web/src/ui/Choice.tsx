interface Props<T extends string | number> {
  label: string;
  value: T;
  options: readonly { key: T; label: string }[];
  onChoose: (key: T) => void;
}

/** One of a few, as keys side by side. */
export function Choice<T extends string | number>({ label, value, options, onChoose }: Props<T>) {
  return (
    <fieldset className="flex flex-col gap-1">
      <legend className="text-soft text-sm">{label}</legend>
      <div className="flex flex-wrap gap-1.5">
        {options.map((o) => (
          <button
            type="button"
            key={o.key}
            className="key grow px-2"
            aria-pressed={value === o.key}
            onClick={() => onChoose(o.key)}
          >
            {o.label}
          </button>
        ))}
      </div>
    </fieldset>
  );
}

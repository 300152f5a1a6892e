import type { ComponentProps, ReactNode } from 'react';

/** What every field has over and under it. */
interface Labelled {
  /** What it asks for. */
  label: ReactNode;
  /** What is wrong with what stands in it, as a sentence; nothing where it is right. */
  problem?: string | undefined;
}

/** A sentence under a field that is wrong. */
function Wrong({ problem }: Pick<Labelled, 'problem'>) {
  return problem ? (
    <span role="alert" className="text-hold text-sm">
      {problem}
    </span>
  ) : null;
}

/** A line to be typed, under its label; what a form's `register` gives is spread into it. */
export function TextField({ label, problem, className = '', ...input }: Labelled & ComponentProps<'input'>) {
  return (
    <label className="flex flex-col gap-1">
      <span className="text-soft text-sm">{label}</span>
      <input className={`field ${className}`} aria-invalid={problem !== undefined} {...input} />
      <Wrong problem={problem} />
    </label>
  );
}

/** Some lines to be typed, under their label. */
export function TextArea({ label, problem, ...input }: Labelled & ComponentProps<'textarea'>) {
  return (
    <label className="flex flex-col gap-1">
      <span className="text-soft text-sm">{label}</span>
      <textarea className="field py-2" rows={2} aria-invalid={problem !== undefined} {...input} />
      <Wrong problem={problem} />
    </label>
  );
}

/** What can be chosen. */
interface Selecting extends Labelled {
  /** In its order. */
  options: readonly { id: string; label: string }[];
  /** Said for having chosen none; without it one is always chosen. */
  none?: string;
}

/** One of many, under its label. */
export function SelectField({ label, problem, options, none, ...select }: Selecting & ComponentProps<'select'>) {
  return (
    <label className="flex flex-col gap-1">
      <span className="text-soft text-sm">{label}</span>
      <select className="field" aria-invalid={problem !== undefined} {...select}>
        {none !== undefined && <option value="">{none}</option>}
        {options.map((o) => (
          <option key={o.id} value={o.id}>
            {o.label}
          </option>
        ))}
      </select>
      <Wrong problem={problem} />
    </label>
  );
}

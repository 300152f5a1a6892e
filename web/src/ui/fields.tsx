import { type ComponentProps, type ReactNode, useId } from 'react';

/** What every field has over and under it. */
interface Labelled {
  /** What it asks for. */
  label: ReactNode;
  /** What is wrong with what stands in it, as a sentence; nothing where it is right. */
  problem?: string | undefined;
}

/** What ties a field to its label and to the sentence of what is wrong with it. */
interface Tied {
  id: string;
  'aria-invalid': boolean;
  'aria-describedby': string | undefined;
}

/** A label, its field, and a sentence under a field that is wrong, which a screen reader tells with it. */
function Field({ label, problem, field }: Labelled & { field: (tied: Tied) => ReactNode }) {
  const id = useId();
  const wrong = `${id}-wrong`;
  return (
    <div className="flex flex-col gap-1">
      <label htmlFor={id} className="text-soft text-sm">
        {label}
      </label>
      {field({ id, 'aria-invalid': problem !== undefined, 'aria-describedby': problem ? wrong : undefined })}
      {problem && (
        <span id={wrong} role="alert" className="text-hold text-sm">
          {problem}
        </span>
      )}
    </div>
  );
}

/** A line to be typed, under its label; what a form's `register` gives is spread into it. */
export function TextField({ label, problem, className = '', ...input }: Labelled & ComponentProps<'input'>) {
  return (
    <Field
      label={label}
      problem={problem}
      field={(tied) => <input className={`field ${className}`} {...tied} {...input} />}
    />
  );
}

/** Some lines to be typed, under their label. */
export function TextArea({ label, problem, ...input }: Labelled & ComponentProps<'textarea'>) {
  return (
    <Field
      label={label}
      problem={problem}
      field={(tied) => <textarea className="field py-2" rows={2} {...tied} {...input} />}
    />
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
    <Field
      label={label}
      problem={problem}
      field={(tied) => (
        <select className="field" {...tied} {...select}>
          {none !== undefined && <option value="">{none}</option>}
          {options.map((o) => (
            <option key={o.id} value={o.id}>
              {o.label}
            </option>
          ))}
        </select>
      )}
    />
  );
}

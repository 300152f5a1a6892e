import type { Variant } from '@careful-seam/core/rules/checks/checkBase';
import type { Part } from '@careful-seam/core/shower/geometry/parts';
import { edgeId } from '@careful-seam/core/shower/geometry/showerGeometry';
import { edgeLetters } from '@careful-seam/words/texts/names';
import type { ReactNode } from 'react';
import { useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../../ui/preferences';
import type { Drawn } from './drawing';
import type { Field } from './lengthReader';
import type { LengthName, Typed } from './typed';

/** All fields of the form, with the name and the method. */
export type NewForm = Typed & {
  name: string;
  job: string;
  crewId: string;
  method: string;
  /** Part → method, where it differs; empty where it does not. */
  parts: Partial<Record<Part, string>>;
  variants: Variant[];
  beginsAt: string;
};

/** A label over what it names, in the grid of a group. */
export function Labelled({ text, children }: { text: string; children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noLabelWithoutControl: the control is the child.
    <label className="flex flex-col justify-end text-sm">
      <span className="text-soft leading-tight">{text}</span>
      {children}
    </label>
  );
}

/** A field of a length with its unit at its end; of something else with what is said. */
export function InUnit({ children, unit: said }: { children: ReactNode; unit?: string }) {
  const { unit } = usePreferences();
  return (
    <span className="in-unit relative block" data-unit={said ?? unit}>
      {children}
    </span>
  );
}

/** One of the shower's lengths. */
function LengthInput({ name, drawn }: { name: LengthName; drawn: Drawn }) {
  const { t } = useTranslation();
  const { register, watch } = useFormContext<NewForm>();
  return (
    <Labelled text={t([`new.of.${watch('shape')}.${name}`, `new.${name}`])}>
      <InUnit>
        <input
          className="field px-2 pr-9 font-bold text-lg"
          aria-invalid={Boolean(drawn.problems[name])}
          {...register(name)}
        />
      </InUnit>
    </Labelled>
  );
}

/** What is wrong with some fields, each beside its name. */
export function Faults({ drawn, of }: { drawn: Drawn; of: readonly { field: Field; name: string }[] }) {
  return of.map(({ field, name }) =>
    drawn.problems[field] ? (
      <p key={field} role="alert" className="text-hold text-sm">
        {name}: {drawn.problems[field]}
      </p>
    ) : null,
  );
}

/** Lengths of one kind side by side, with their faults beneath. */
export function LengthGroup({
  label,
  names,
  drawn,
  children,
}: {
  label: string;
  names: readonly LengthName[];
  drawn: Drawn;
  children?: ReactNode;
}) {
  const { t } = useTranslation();
  const { watch } = useFormContext<NewForm>();
  const nameOf = (name: LengthName) => t([`new.of.${watch('shape')}.${name}`, `new.${name}`]);
  return (
    <fieldset className="border-hair border-t pt-1">
      <legend className="sr-only">{label}</legend>
      <div className="grid grid-cols-4 gap-2 max-sm:grid-cols-2">
        {names.map((name) => (
          <LengthInput key={name} name={name} drawn={drawn} />
        ))}
        {children}
      </div>
      <Faults drawn={drawn} of={names.map((name) => ({ field: name, name: nameOf(name) }))} />
    </fieldset>
  );
}

/** The name of a side: the shape's own word, or its number along the tape, with its letter on the map once it is drawn. */
export function useSideName({ sides, model }: Pick<Drawn, 'sides' | 'model'>): (name: string) => string {
  const { t } = useTranslation();
  const letters = model ? edgeLetters(model) : null;
  return (name) => {
    const taped = /^side-(\d+)/.exec(name);
    const word = taped ? t('new.tapedSide', { number: taped[1] }) : t(`new.side.${name}`);
    const edge = sides.findIndex((side) => side.name === name);
    const letter = model && edge >= 0 ? letters?.get(edgeId(model.geometry, edge)) : undefined;
    return letter ? `${word} (${letter})` : word;
  };
}

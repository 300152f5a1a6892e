import { PENETRATION_KINDS } from '@careful-seam/core/shower/geometry/showerGeometry';
import type { ReactNode } from 'react';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { newId } from '../../tablet/store';
import { Choice } from '../../ui/Choice';
import { usePreferences } from '../../ui/preferences';
import { CeilingFields } from './CeilingFields';
import type { Drawn } from './drawing';
import { Faults, InUnit, Labelled, type NewForm, useSideName } from './fields';
import { newBench, newNiche, type PipeTyped } from './typed';

/** A niche, bench or pipe of the form. */
interface RowProps {
  /** What it is of, in words. */
  title: string;
  /** Takes it out again. */
  onRemove: () => void;
  /** What stands in it. */
  children: ReactNode;
}

/** The frame of one part. */
function Row({ title, onRemove, children }: RowProps) {
  const { t } = useTranslation();
  return (
    <fieldset className="mb-2 border-hair border-b pb-2" aria-label={title}>
      <div className="flex items-center justify-between">
        <span className="font-semibold">{title}</span>
        <button type="button" className="key px-3" aria-label={t('new.remove', { part: title })} onClick={onRemove}>
          {t('new.removeShort')}
        </button>
      </div>
      <div className="grid grid-cols-4 gap-2 max-sm:grid-cols-2">{children}</div>
    </fieldset>
  );
}

/** Which wall it stands in, by its letter. */
function WallChoice({
  path,
  drawn,
  corner = false,
}: {
  path: `${'niches' | 'benches' | 'pipes'}.${number}.wall`;
  drawn: Drawn;
  corner?: boolean;
}) {
  const { t } = useTranslation();
  const { register } = useFormContext<NewForm>();
  const sideName = useSideName(drawn);
  const walls = corner ? cornersOf(drawn) : drawn.sides.filter(isWall);
  return (
    <Labelled text={t(corner ? 'new.cornerOf' : 'new.wall')}>
      <select className="field px-1 text-base" {...register(path)}>
        {walls.map((side) => (
          <option key={side.name} value={side.name}>
            {corner ? cornerName(sideName, drawn, side.name) : sideName(side.name)}
          </option>
        ))}
      </select>
    </Labelled>
  );
}

/** True for a side that something can stand in. */
const isWall = (side: Drawn['sides'][number] | undefined): boolean =>
  side?.kind === 'wall' || side?.kind === 'half-wall';

/** Sides that begin at a corner between two walls. */
const cornersOf = ({ sides }: Drawn) => sides.filter((side, k) => isWall(side) && isWall(sides.at(k - 1)));

/** A corner is named after the two sides that meet there. */
function cornerName(sideName: (name: string) => string, drawn: Drawn, name: string): string {
  const k = drawn.sides.findIndex((s) => s.name === name);
  const before = drawn.sides[(k + drawn.sides.length - 1) % drawn.sides.length]!;
  return `${sideName(before.name)} / ${sideName(name)}`;
}

/** A length of a part, with its problem under it. */
function Text({
  path,
  label,
  bad,
}: {
  path: Parameters<ReturnType<typeof useFormContext<NewForm>>['register']>[0];
  label: string;
  bad: boolean;
}) {
  const { register } = useFormContext<NewForm>();
  return (
    <Labelled text={label}>
      <InUnit>
        <input className="field px-2 pr-9 font-bold text-lg" aria-invalid={bad} {...register(path)} />
      </InUnit>
    </Labelled>
  );
}

/** The niches, with their shelves. */
function Niches({ drawn }: { drawn: Drawn }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { control, watch } = useFormContext<NewForm>();
  const { fields, append, remove } = useFieldArray({ control, name: 'niches', keyName: 'row' });
  const taken = watch('niches').map((n) => n.wall);
  const wall = wallsFromBack(drawn).find((name) => !taken.includes(name)) ?? backOf(drawn);
  return (
    <fieldset>
      <legend className="sr-only">{t('new.niches')}</legend>
      {fields.map((niche, k) => (
        <Row key={niche.row} title={t('new.niche', { number: k + 1 })} onRemove={() => remove(k)}>
          <WallChoice path={`niches.${k}.wall`} drawn={drawn} />
          {(['along', 'sill', 'width', 'height', 'depth', 'shelf'] as const).map((key) => (
            <Text
              key={key}
              path={`niches.${k}.${key}`}
              label={t(`new.part.${key}`)}
              bad={Boolean(drawn.problems[`niches.${k}`])}
            />
          ))}
        </Row>
      ))}
      <Faults
        drawn={drawn}
        of={fields.map((_, k) => ({ field: `niches.${k}` as const, name: t('new.niche', { number: k + 1 }) }))}
      />
      <button type="button" className="key" onClick={() => append(newNiche(unit, newId(), wall))}>
        {t('new.addNiche')}
      </button>
    </fieldset>
  );
}

/** Which walls are outside walls of the house: what stands in them must stay warm behind. */
function OutsideWalls({ drawn }: { drawn: Drawn }) {
  const { t } = useTranslation();
  const { setValue, watch } = useFormContext<NewForm>();
  const sideName = useSideName(drawn);
  const chosen = watch('outsideWalls') ?? [];
  const walls = drawn.sides.filter((side) => side.kind === 'wall');
  if (walls.length === 0) return null;
  return (
    <fieldset className="border-hair border-t pt-1">
      <legend className="text-soft text-sm">{t('new.outsideWalls')}</legend>
      <div className="grid grid-cols-3 gap-x-2 max-sm:grid-cols-2">
        {walls.map(({ name }) => (
          <label key={name} className="flex min-h-12 items-center gap-2">
            <input
              type="checkbox"
              className="size-6"
              checked={chosen.includes(name)}
              onChange={(e) =>
                setValue('outsideWalls', e.target.checked ? [...chosen, name] : chosen.filter((n) => n !== name))
              }
            />
            {sideName(name)}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

/** Where a bench can stand. */
const BENCH_KINDS = ['corner', 'along', 'floating'] as const;

/** The benches. */
function Benches({ drawn }: { drawn: Drawn }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { control, watch, setValue } = useFormContext<NewForm>();
  const { fields, append, remove } = useFieldArray({ control, name: 'benches', keyName: 'row' });
  const benches = watch('benches');
  return (
    <fieldset>
      <legend className="sr-only">{t('new.benches')}</legend>
      {fields.map((bench, k) => {
        const kind = benches[k]?.kind ?? bench.kind;
        const keys =
          kind === 'corner' ? (['width', 'depth', 'top'] as const) : (['along', 'width', 'depth', 'top'] as const);
        const label = (key: string) => t(kind === 'corner' ? `new.cornerPart.${key}` : `new.part.${key}`);
        const bad = Boolean(drawn.problems[`benches.${k}`]);
        return (
          <Row key={bench.row} title={t('new.bench', { number: k + 1 })} onRemove={() => remove(k)}>
            <div className="col-span-4 max-sm:col-span-2">
              <Choice
                label={t('new.benchKind')}
                value={kind}
                options={BENCH_KINDS.map((key) => ({ key, label: t(`new.benchKinds.${key}`) }))}
                onChoose={(v) => setValue(`benches.${k}.kind`, v)}
              />
            </div>
            <WallChoice path={`benches.${k}.wall`} drawn={drawn} corner={kind === 'corner'} />
            {keys.map((key) => (
              <Text key={key} path={`benches.${k}.${key}`} label={label(key)} bad={bad} />
            ))}
            {kind === 'floating' && <Text path={`benches.${k}.under`} label={t('new.part.under')} bad={bad} />}
          </Row>
        );
      })}
      <Faults
        drawn={drawn}
        of={fields.map((_, k) => ({ field: `benches.${k}` as const, name: t('new.bench', { number: k + 1 }) }))}
      />
      <button
        type="button"
        className="key"
        onClick={() => append(newBench(unit, newId(), cornersOf(drawn)[0]?.name ?? backOf(drawn)))}
      >
        {t('new.addBench')}
      </button>
    </fieldset>
  );
}

/** The wall that a new part is put on: the back one, or the first there is. */
const backOf = (drawn: Drawn): string => wallsFromBack(drawn)[0] ?? 'back';

/** Full walls, the back one first. */
function wallsFromBack(drawn: Drawn): string[] {
  const walls = drawn.sides.filter((s) => s.kind === 'wall').map((s) => s.name);
  return [...walls.filter((n) => n === 'back'), ...walls.filter((n) => n !== 'back')];
}

/** What comes through the walls. */
function Pipes({ drawn }: { drawn: Drawn }) {
  const { t } = useTranslation();
  const { control, register } = useFormContext<NewForm>();
  const { fields, append, remove } = useFieldArray({ control, name: 'pipes', keyName: 'row' });
  const add = (kind: PipeTyped['kind']) =>
    append({ id: newId(), kind, wall: fields[0]?.wall ?? backOf(drawn), along: fields[0]?.along ?? '', height: '' });
  return (
    <fieldset>
      <legend className="sr-only">{t('new.pipes')}</legend>
      {fields.map((pipe, k) => (
        <Row key={pipe.row} title={t('new.pipe', { number: k + 1 })} onRemove={() => remove(k)}>
          <Labelled text={t('new.pipeKind')}>
            <select className="field px-1 text-base" {...register(`pipes.${k}.kind`)}>
              {PENETRATION_KINDS.map((kind) => (
                <option key={kind} value={kind}>
                  {t(`new.pipeKinds.${kind}`)}
                </option>
              ))}
            </select>
          </Labelled>
          <WallChoice path={`pipes.${k}.wall`} drawn={drawn} />
          <Text path={`pipes.${k}.along`} label={t('new.part.along')} bad={Boolean(drawn.problems[`pipes.${k}`])} />
          <Text path={`pipes.${k}.height`} label={t('new.part.over')} bad={Boolean(drawn.problems[`pipes.${k}`])} />
        </Row>
      ))}
      <Faults
        drawn={drawn}
        of={fields.map((_, k) => ({ field: `pipes.${k}` as const, name: t('new.pipe', { number: k + 1 }) }))}
      />
      <button type="button" className="key" onClick={() => add('other')}>
        {t('new.addPipe')}
      </button>
    </fieldset>
  );
}

/** What stands in the shower and goes through its walls: ceiling, niches, benches, pipes. */
export function PartFields({ drawn }: { drawn: Drawn }) {
  return (
    <>
      <CeilingFields drawn={drawn} />
      <Niches drawn={drawn} />
      {drawn.model?.faces.some((f) => f.kind === 'niche') && <OutsideWalls drawn={drawn} />}
      <Benches drawn={drawn} />
      <Pipes drawn={drawn} />
    </>
  );
}

import { filmFault } from '@careful-seam/core/rules/filmFault';
import { LINE_KINDS, type LineKind, MORTAR_KINDS, type ProductLine } from '@careful-seam/core/rules/productLine';
import type { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { textIn } from '@careful-seam/core/rules/translateBook';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { newId } from '../../tablet/store';
import { Sheet } from '../../ui/Sheet';
import { problemWords, words } from '../../ui/words';
import { fieldOf, figuresOf, readFigures, sidesOf, typedFigures } from './labelFigures';

/** A product line of the draft. */
interface Props {
  /** The rule book that is being changed; nobody sees it until it is published. */
  draft: RuleBook;
  /** The product line that is changed; null for a new one. */
  line: ProductLine | null;
  /** Told of the line as it is now. */
  onKeep: (line: ProductLine) => void;
  /** Told when it is done with, kept or not. */
  onClose: () => void;
}

/** Kinds of product whose label may ask for one mortar. */
const SET_IN_MORTAR: readonly LineKind[] = ['mortar', 'membrane', 'pan', 'band'];

/** Whether its maker approves another line in writing, and by which paper. */
function GoesWith({
  others,
  value,
  onChange,
}: {
  others: readonly ProductLine[];
  value: ProductLine['goesWith'];
  onChange: (value: ProductLine['goesWith']) => void;
}) {
  const { t } = useTranslation();
  if (others.length === 0) return null;
  const paperOf = (id: string) => value.find((g) => g.line === id)?.paper ?? '';
  const set = (id: string, paper: string) =>
    onChange([...value.filter((g) => g.line !== id), ...(paper === '' ? [] : [{ line: id, paper }])]);
  return (
    <fieldset className="flex flex-col gap-1">
      <legend className="text-soft text-sm">{t('lines.goesWith')}</legend>
      {others.map((other) => (
        <label key={other.id} className="grid grid-cols-2 items-center gap-2">
          <span className="leading-tight">
            {other.name} <span className="text-soft text-sm">{other.maker}</span>
          </span>
          <input
            className="field text-base"
            placeholder={t('lines.noPaper')}
            value={paperOf(other.id)}
            onChange={(e) => set(other.id, e.target.value)}
          />
        </label>
      ))}
    </fieldset>
  );
}

/** A product line as its label and papers describe it. */
export function LineForm({ draft, line, onKeep, onClose }: Props) {
  const { t } = useTranslation();
  const [problem, setProblem] = useState<string | null>(null);
  const { register, watch, setValue, handleSubmit } = useForm({
    defaultValues: {
      name: line?.name ?? '',
      maker: line?.maker ?? '',
      kind: line?.kind ?? 'membrane',
      methods: line?.methods ?? [],
      mortarKind: (line?.mortarKind ?? '') as ProductLine['mortarKind'] | '',
      readFrom: line?.readFrom ?? '',
      ownPartsOnly: line?.ownPartsOnly ?? false,
      goesWith: line?.goesWith ?? [],
      typed: typedFigures(line),
    },
  });
  const { kind, goesWith, typed } = watch();
  const keep = handleSubmit(({ typed: figuresTyped, mortarKind, ...rest }) => {
    const empty = (['name', 'maker', 'readFrom'] as const).find((k) => rest[k].trim() === '');
    if (empty) return setProblem(t(`lines.missing.${empty}`));
    if (rest.methods.length === 0) return setProblem(t('lines.missing.methods'));
    const read = readFigures(rest.kind, figuresTyped);
    if ('problem' in read) {
      const [figure] = read.field.split('-');
      return setProblem(t(`lines.wrong.${read.problem}`, { figure: t(`lines.figure.${figure}`) }));
    }
    const fault = rest.kind === 'membrane' ? filmFault({ name: rest.name, figures: read.figures }) : null;
    if (fault?.ok === false)
      return setProblem(`${t(`lines.figure.${fault.problem.field}`)}: ${problemWords(fault.problem)}`);
    onKeep({
      id: line?.id ?? newId(),
      ...rest,
      figures: read.figures,
      ...(!mortarKind ? {} : { mortarKind }),
    });
    onClose();
  });
  return (
    <Sheet title={line ? line.name : t('lines.new')} onClose={onClose}>
      <form className="flex flex-col gap-2" onSubmit={(e) => void keep(e)}>
        <p className="text-soft text-sm">{t('lines.what')}</p>
        {(['name', 'maker', 'readFrom'] as const).map((field) => (
          <label key={field} className="text-sm">
            <span className="text-soft">{t(`lines.${field}`)}</span>
            <input className="field text-base" {...register(field)} />
          </label>
        ))}
        <label className="text-sm">
          <span className="text-soft">{t('lines.kind')}</span>
          <select className="field text-base" {...register('kind')}>
            {LINE_KINDS.map((k) => (
              <option key={k} value={k}>
                {t(`lineKind.${k}`)}
              </option>
            ))}
          </select>
        </label>
        <fieldset>
          <legend className="text-soft text-sm">{t('lines.methods')}</legend>
          <div className="grid grid-cols-2">
            {draft.methods.map((m) => (
              <label key={m.key} className="flex min-h-12 items-center gap-2 leading-tight">
                <input type="checkbox" className="size-6 flex-none" value={m.key} {...register('methods')} />
                {textIn(draft, words.language, m.label)}
              </label>
            ))}
          </div>
        </fieldset>
        {SET_IN_MORTAR.includes(kind) && (
          <label className="text-sm">
            <span className="text-soft">{t(kind === 'mortar' ? 'lines.mortarKind' : 'lines.asksMortar')}</span>
            <select className="field text-base" {...register('mortarKind')}>
              <option value="">{t('lines.mortar.unsaid')}</option>
              {MORTAR_KINDS.map((k) => (
                <option key={k} value={k}>
                  {t(`lines.mortar.${k}`)}
                </option>
              ))}
            </select>
          </label>
        )}
        {figuresOf(kind).map((figure) => (
          <fieldset key={figure} className="grid grid-cols-[1fr_7rem_7rem] items-center gap-2">
            <legend className="sr-only">{t(`lines.figure.${figure}`)}</legend>
            <span className="text-sm leading-tight">{t(`lines.figure.${figure}`)}</span>
            {sidesOf(figure).map((side) => (
              <input
                key={side}
                className="field px-2 text-base"
                aria-label={`${t(`lines.figure.${figure}`)} ${t(`lines.${side}`)}`}
                placeholder={sidesOf(figure).length > 1 ? t(`lines.${side}`) : ''}
                value={typed[fieldOf(figure, side)] ?? ''}
                onChange={(e) => setValue('typed', { ...typed, [fieldOf(figure, side)]: e.target.value })}
              />
            ))}
          </fieldset>
        ))}
        <label className="flex min-h-12 items-center gap-2">
          <input type="checkbox" className="size-6 flex-none" {...register('ownPartsOnly')} />
          {t('lines.ownPartsOnly')}
        </label>
        <GoesWith
          others={draft.productLines.filter((l) => l.id !== line?.id)}
          value={goesWith}
          onChange={(value) => setValue('goesWith', value)}
        />
        {problem && (
          <p role="alert" className="text-hold">
            {problem}
          </p>
        )}
        <button type="submit" className="key key-main text-lg">
          {t('lines.keep')}
        </button>
      </form>
    </Sheet>
  );
}

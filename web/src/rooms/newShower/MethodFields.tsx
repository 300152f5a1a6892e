import { NOT_KNOWN } from '@careful-seam/core/rules/notKnown';
import type { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { PARTS, type Part } from '@careful-seam/core/shower/geometry/parts';
import { useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { useStore } from '../../tablet/store';
import type { Drawn } from './drawing';
import { Labelled, type NewForm } from './fields';
import { firstStage, mainFirst } from './formStart';

/** The first stage of which something can be seen in a shower that stands: its water. */
const FIRST_SEEN = 'flood-test';

/** Which parts a drawing has, so that only they are asked for. */
function partsOf(drawn: Drawn): Part[] {
  const faces = drawn.model?.faces ?? [];
  const has: Partial<Record<Part, boolean>> = {
    curb: faces.some((f) => f.kind.startsWith('curb')),
    niche: faces.some((f) => f.kind === 'niche'),
    bench: faces.some((f) => f.kind.startsWith('bench')),
    ceiling: faces.some((f) => f.kind === 'ceiling'),
    'outside-floor': faces.some((f) => f.kind === 'outside-floor'),
  };
  return PARTS.filter((p) => has[p] ?? true);
}

/** Parts that differ, ways of building, and where the inspection begins. */
function HowBuilt({ drawn, book }: { drawn: Drawn; book: RuleBook }) {
  const { t } = useTranslation();
  const { register, setValue, watch } = useFormContext<NewForm>();
  const { method: main, parts, variants, beginsAt } = watch();
  const method = book.methods.find((m) => m.key === main) ?? book.methods[0]!;
  const settings = useStore((s) => s.settings);
  const methods = mainFirst(book.methods, settings?.mainMethods).filter((m) => m.key !== NOT_KNOWN);
  const begins = method.stages.find((s) => s.key === beginsAt);
  const mixed = Object.values(parts).some((m) => m !== '' && m !== main);
  return (
    <>
      <fieldset className="border-hair border-t pt-1">
        <legend className="text-soft text-sm">{t('new.partsBy')}</legend>
        <div className="grid grid-cols-2 gap-2">
          {partsOf(drawn).map((part) => (
            <Labelled key={part} text={t(`new.partNames.${part}`)}>
              <select
                className="field px-1 text-base"
                value={parts[part] ?? ''}
                onChange={(e) => setValue('parts', { ...parts, [part]: e.target.value })}
              >
                <option value="">{t('new.asMethod')}</option>
                {methods
                  .filter((m) => m.key !== main)
                  .map((m) => (
                    <option key={m.key} value={m.key}>
                      {m.label}
                    </option>
                  ))}
              </select>
            </Labelled>
          ))}
        </div>
        {mixed && <p className="mt-1 border-cure border-l-4 pl-2 text-sm">{t('new.mixed')}</p>}
      </fieldset>
      <fieldset className="border-hair border-t pt-1">
        <legend className="text-soft text-sm">{t('new.variants')}</legend>
        {(['wet-room', 'unlevel'] as const).map((variant) => (
          <label key={variant} className="flex min-h-12 items-center gap-2">
            <input
              type="checkbox"
              className="size-6"
              checked={variants.includes(variant)}
              onChange={(e) =>
                setValue('variants', e.target.checked ? [...variants, variant] : variants.filter((v) => v !== variant))
              }
            />
            {t(`new.variant.${variant}`)}
          </label>
        ))}
      </fieldset>
      <Labelled text={t('new.beginsAt')}>
        <select className="field text-base" {...register('beginsAt')}>
          {method.stages
            .filter((s) => s.order < 14 || s.existing)
            .map((s) => (
              <option key={s.key} value={s.key}>
                {s.label}
              </option>
            ))}
        </select>
      </Labelled>
      {begins?.existing && <p className="text-soft text-sm">{t('new.beginsOld')}</p>}
      {beginsAt !== firstStage(book) && !begins?.existing && (
        <p className="text-soft text-sm">{t('new.beginsLater')}</p>
      )}
    </>
  );
}

/** How it is built: the method, parts that differ from it, ways of building, and where the inspection begins. */
export function MethodFields({ drawn, book }: { drawn: Drawn; book: RuleBook }) {
  const { t } = useTranslation();
  const { register, setValue, watch } = useFormContext<NewForm>();
  const main = watch('method');
  const settings = useStore((s) => s.settings);
  const methods = mainFirst(book.methods, settings?.mainMethods);
  return (
    <>
      <Labelled text={t('new.method', { book: book.title })}>
        <select
          className="field text-base"
          {...register('method', {
            // Of what others built the water and what can be seen are asked.
            onChange: (e) => {
              const isNotKnown = e.target.value === NOT_KNOWN;
              setValue('beginsAt', isNotKnown ? FIRST_SEEN : firstStage(book));
              if (isNotKnown) setValue('parts', {});
              if (isNotKnown) setValue('variants', []);
            },
          })}
        >
          {methods.map((m) => (
            <option key={m.key} value={m.key}>
              {m.label}
            </option>
          ))}
        </select>
      </Labelled>
      {main === NOT_KNOWN ? <p className="text-soft">{t('new.notKnown')}</p> : <HowBuilt drawn={drawn} book={book} />}
    </>
  );
}

import { WHOLE_SHOWER } from '@careful-seam/core/checks/requirements';
import type { ShowerState } from '@careful-seam/core/log/state';
import { methodsInUse } from '@careful-seam/core/rules/combineMethods';
import type { Together } from '@careful-seam/core/rules/mixedParts';
import { productsOf } from '@careful-seam/core/rules/productsOf';
import { kindMeaning } from '@careful-seam/core/rules/tools';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { pinnedTo } from '../../shared/OfferedBook';
import { type LocalShower, newId, useStore } from '../../tablet/store';
import { Sheet } from '../../ui/Sheet';
import { MixedTold, ProductPicker } from './ProductPicker';

/** The shower whose kit is ticked. */
interface Props {
  /** The shower as this tablet has worked it out. */
  shower: LocalShower;
  /** Told when it is done with, kept or not. */
  onClose: () => void;
}

/** How a part of the kit can be. */
const ANSWERS = ['there', 'missing', 'substitute'] as const;
/** Products that nobody has approved together. */
const isLoose = (together: Together): boolean => together !== 'one-maker' && together !== 'approved';
/** One of them. */
type Answer = (typeof ANSWERS)[number];

/** The stage that an incomplete kit holds: the lowest that is inspected. */
function firstStage(state: ShowerState): string {
  const stages = [...state.rules!.method.stages].filter((s) => s.checks.length > 0).sort((a, b) => a.order - b.order);
  return stages[0]!.key;
}

/** The kit before the first layer: ticked part by part. What is missing or a substitute becomes something to put right. */
export function KitSheet({ shower, onClose }: Props) {
  const { t } = useTranslation();
  const writeAll = useStore((s) => s.writeAll);
  const { state } = shower;
  const { method, pinned, book } = state.rules!;
  const { kit } = method;
  const [chosen, setChosen] = useState<string[]>([...(pinned.lines ?? [])]);
  const mixed = productsOf({ book, pinned: { ...pinned, lines: chosen } });
  const inUse = methodsInUse(pinned);
  const products = book.productLines.filter(
    (line) => chosen.includes(line.id) || line.methods.some((m) => inUse.includes(m)),
  );
  const loose = isLoose(mixed.together) || mixed.forNoMethod.length > 0;
  const [answers, setAnswers] = useState<Record<string, Answer>>({});
  const [words, setWords] = useState('');
  const list = (answer: Answer) => kit.filter((k) => answers[k.id] === answer).map((k) => k.label);
  const missing = list('missing');
  const substitutes = list('substitute');
  const incomplete = missing.length + substitutes.length > 0 || loose;
  const left = kit.filter((k) => k.required && !answers[k.id]).length;
  const keep = async () => {
    const stage = firstStage(state);
    const place = { element: WHOLE_SHOWER };
    const told = [
      missing.length > 0 ? t('kit.isMissing', { list: missing.join(', ') }) : '',
      substitutes.length > 0 ? t('kit.isSubstitute', { list: substitutes.join(', ') }) : '',
      ...mixed.pairs
        .filter((p) => isLoose(p.together))
        .map(({ a, b, together }) => t(`together.${together}`, { a: a.name, b: b.name })),
      ...mixed.forNoMethod.map((line) => t('together.noMethod', { name: line.name })),
      words.trim(),
    ].filter((part) => part !== '');
    const wrong = incomplete;
    const id = newId();
    const kind = kindMeaning(book, missing.length > 0 ? 'kit-missing' : 'kit-substitute');
    const look = { stage, checks: ['kit'], places: [place], answer: wrong ? 'defect' : 'ok', reason: told.join(' ') };
    const defect = { stage, place, kind, severity: 'fix', words: told.join(' '), photos: [], about: id };
    const same = chosen.join(' ') === (pinned.lines ?? []).join(' ');
    await writeAll(shower.id, [
      ...(same ? [] : [{ kind: 'rules-pinned' as const, body: { ...pinnedTo(shower, book), lines: chosen } }]),
      { kind: 'look', id, body: look },
      ...(wrong ? [{ kind: 'defect-found' as const, body: defect }] : []),
    ]);
    onClose();
  };
  return (
    <Sheet title={t('kit.title')} onClose={onClose}>
      <p className="text-soft">{t('kit.what')}</p>
      <button
        type="button"
        className="key"
        disabled={kit.every((k) => answers[k.id])}
        onClick={() => setAnswers({ ...Object.fromEntries(kit.map((k) => [k.id, 'there' as const])), ...answers })}
      >
        {t('kit.allThere')}
      </button>
      <ul>
        {kit.map((part) => (
          <li key={part.id} className="flex flex-col gap-1.5 border-hair border-b py-1.5">
            <p>
              {part.label} {!part.required && <span className="text-soft text-sm">{t('kit.recommended')}</span>}
            </p>
            <fieldset className="grid grid-cols-3 gap-1.5" aria-label={part.label}>
              {ANSWERS.map((answer) => (
                <button
                  type="button"
                  key={answer}
                  className="key px-1 text-sm"
                  aria-pressed={answers[part.id] === answer}
                  onClick={() => setAnswers({ ...answers, [part.id]: answer })}
                >
                  {t(`kit.${answer}`)}
                </button>
              ))}
            </fieldset>
            <ProductPicker part={part} lines={products} chosen={chosen} onChoose={setChosen} />
          </li>
        ))}
      </ul>
      <MixedTold mixed={mixed} />
      <label className="flex flex-col gap-1">
        <span className="text-soft text-sm">{t('kit.words')}</span>
        <input className="field" value={words} onChange={(e) => setWords(e.target.value)} />
      </label>
      {substitutes.length > 0 && <p className="border-cure border-l-4 pl-2">{t('kit.mixed')}</p>}
      <button type="button" className="key key-main text-lg" disabled={left > 0} onClick={() => void keep()}>
        {left > 0 ? t('kit.left', { count: left }) : incomplete ? t('kit.keepIncomplete') : t('kit.keep')}
      </button>
    </Sheet>
  );
}

import { offered } from '@careful-seam/core/rules/listed';
import type { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { withTextIn } from '@careful-seam/core/rules/translateBook';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';

/** The lists of the rule book that defects are told by. */
const LISTS = ['defectKinds', 'causes', 'escapes'] as const;
/** One of them. */
type ListName = (typeof LISTS)[number];
/** A kind, a cause or an escape. */
type Family = RuleBook['causes'][number];

/** The draft whose lists are changed. */
interface Props {
  /** The rule book that is being changed; nobody sees it until it is published. */
  draft: RuleBook;
  /** A text of the draft in the language that is spoken. */
  say: (text: string) => string;
  /** The language that is spoken. */
  language: string;
  /** Told of the draft as it is now. */
  onChange: (draft: RuleBook) => void;
}

/** The draft with one entry of a list changed. */
const withFamily = (draft: RuleBook, list: ListName, id: string, change: Partial<Family>): RuleBook => ({
  ...draft,
  [list]: draft[list].map((x) => (x.id === id ? { ...x, ...change } : x)),
});

/** An id that no entry of a list has, made of its words. */
function freshId(list: readonly Family[], words: string): string {
  const plain =
    words
      .toLowerCase()
      .normalize('NFKD')
      .replaceAll(/[^a-z0-9]+/g, '-')
      .replaceAll(/^-+|-+$/g, '')
      .slice(0, 40) || 'own';
  for (let k = 1; ; k += 1) {
    const id = k === 1 ? plain : `${plain}-${k}`;
    if (!list.some((x) => x.id === id)) return id;
  }
}

/** The draft with an entry more, in the language that is spoken; a kind can be found at every stage until somebody says otherwise. */
function withNew(draft: RuleBook, list: ListName, words: string): RuleBook {
  const family = { id: freshId(draft[list], words), label: words };
  const stages = [...new Set(draft.methods.flatMap((m) => m.stages.map((s) => s.key)))];
  return { ...draft, [list]: [...draft[list], list === 'defectKinds' ? { ...family, stages } : family] };
}

/** One kind, cause or escape: its words, whether it is offered, and what it is counted as. */
function FamilyLine({ draft, list, family, say, language, onChange }: Props & { list: ListName; family: Family }) {
  const { t } = useTranslation();
  const name = say(family.label);
  const others = offered<Family>(draft[list], family.into ?? null).filter((x) => x.id !== family.id);
  return (
    <li className="grid grid-cols-[1fr_auto_12rem] items-center gap-2 border-hair border-b py-1 max-md:grid-cols-1">
      <input
        className={`field ${family.retired || family.into ? 'text-soft' : ''}`}
        aria-label={t('rules.label', { check: name })}
        defaultValue={name}
        onBlur={(e) => {
          const said = e.target.value.trim();
          if (said === '' || said === name) return;
          onChange(
            language === 'en'
              ? withFamily(draft, list, family.id, { label: said })
              : withTextIn(draft, language, family.label, said),
          );
        }}
      />
      <label className="flex min-h-12 items-center gap-2">
        <input
          type="checkbox"
          className="size-5"
          checked={!family.retired}
          onChange={(e) => onChange(withFamily(draft, list, family.id, { retired: !e.target.checked }))}
        />
        {t('families.offered')}
      </label>
      <select
        className="field px-1 text-base"
        aria-label={t('families.countedAs', { name })}
        value={family.into ?? ''}
        onChange={(e) => onChange(withFamily(draft, list, family.id, { into: e.target.value || undefined }))}
      >
        <option value="">{t('families.itself')}</option>
        {others.map((x) => (
          <option key={x.id} value={x.id}>
            {say(x.label)}
          </option>
        ))}
      </select>
    </li>
  );
}

/** One list with a field for what is missing in it. */
function FamilyList(props: Props & { list: ListName }) {
  const { t } = useTranslation();
  const { draft, list, onChange } = props;
  const [words, setWords] = useState('');
  return (
    <section>
      <h3 className="pt-2 font-bold">{t(`families.${list}`)}</h3>
      <ul>
        {draft[list].map((family: Family) => (
          <FamilyLine key={family.id} {...props} family={family} />
        ))}
      </ul>
      <form
        className="flex gap-2 py-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (words.trim() === '') return;
          onChange(withNew(draft, list, words.trim()));
          setWords('');
        }}
      >
        <input
          className="field"
          aria-label={t(`families.new.${list}`)}
          placeholder={t(`families.new.${list}`)}
          maxLength={80}
          value={words}
          onChange={(e) => setWords(e.target.value)}
        />
        <button type="submit" className="key flex-none" disabled={words.trim() === ''}>
          {t('families.add')}
        </button>
      </form>
    </section>
  );
}

/** What defects are told by: their kinds, causes, and why nothing caught them. Merged and retired ones stay readable where they were said. */
export function Families(props: Props) {
  const { t } = useTranslation();
  return (
    <div>
      <p className="text-soft text-sm">{t('families.means')}</p>
      {LISTS.map((list) => (
        <FamilyList key={list} list={list} {...props} />
      ))}
    </div>
  );
}

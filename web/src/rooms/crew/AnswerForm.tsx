import type { Defect } from '@careful-seam/core/log/defect';
import type { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { CauseKeys } from '../../shared/CauseKeys';
import { Pictures, useFormPictures } from '../../shared/Pictures';
import { useStore } from '../../tablet/store';

/** The defect that a crew answers. */
interface Props {
  /** The shower that it is written to. */
  showerId: string;
  /** The rule book with its kinds and families. */
  book: RuleBook;
  /** The defect, with all that was said of it so far. */
  defect: Defect;
  /** Told when it is written. */
  onDone: () => void;
}

/** The crew's answer: a picture, a word, and what happened as far as they know. With it the inspector is asked for a look. */
export function AnswerForm({ showerId, book, defect, onDone }: Props) {
  const { t } = useTranslation();
  const writeAll = useStore((s) => s.writeAll);
  const [words, setWords] = useState('');
  const [family, setFamily] = useState('');
  const pictures = useFormPictures();
  const answer = async () => {
    const photos = await pictures.all();
    if (!photos) return;
    const why = family ? { cause: { family, confidence: 'admitted' as const } } : {};
    await writeAll(showerId, [
      { kind: 'defect-answered', body: { defect: defect.id, words: words.trim(), photos, ...why } },
      { kind: 'look-requested', body: { stage: defect.stage } },
    ]);
    onDone();
  };
  return (
    <div className="flex flex-col gap-2 pt-1">
      <Pictures label={t('crew.takePicture')} pictures={pictures} />
      <label className="flex flex-col gap-1">
        <span className="text-soft text-sm">{t('crew.words')}</span>
        <input className="field" value={words} onChange={(e) => setWords(e.target.value)} />
      </label>
      <CauseKeys book={book} kind={defect.kind} label={t('crew.whatHappened')} value={family} onChoose={setFamily} />
      {pictures.photos.length === 0 && !pictures.isTaking && (
        <p className="text-soft text-sm">{t('crew.pictureHelps')}</p>
      )}
      <button
        type="button"
        className="key key-main text-lg"
        disabled={words.trim() === ''}
        onClick={() => void answer()}
      >
        {t('crew.sayFixed')}
      </button>
    </div>
  );
}

import type { Defect } from '@careful-seam/core/log/defect';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Pictures, useFormPictures } from '../../shared/Pictures';
import { useStore } from '../../tablet/store';

/** The crew's answer: a picture and a word. With it the inspector is asked for a look. */
export function AnswerForm({ showerId, defect, onDone }: { showerId: string; defect: Defect; onDone: () => void }) {
  const { t } = useTranslation();
  const writeAll = useStore((s) => s.writeAll);
  const [words, setWords] = useState('');
  const pictures = useFormPictures();
  const answer = async () => {
    const photos = await pictures.all();
    if (!photos) return;
    await writeAll(showerId, [
      { kind: 'defect-answered', body: { defect: defect.id, words: words.trim(), photos } },
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

import type { PhotoMark, PhotoUse } from '@careful-seam/core/entries/entry';
import { type ChangeEvent, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { takePicture } from '../device/takePicture';
import { useStore } from '../state/store';
import { MarkedPicture } from './MarkedPicture';

const TOOLS: PhotoMark['kind'][] = ['arrow', 'circle', 'length', 'area'];

interface Props {
  /** What the key says. */
  label: string;
  photos: readonly PhotoUse[];
  onPhotos: (photos: PhotoUse[]) => void;
}

/** Takes pictures with the camera and marks them by finger: arrow, circle, length, area. */
export function Pictures({ label, photos, onPhotos }: Props) {
  const { t } = useTranslation();
  const db = useStore((s) => s.db);
  const [tool, setTool] = useState<PhotoMark['kind']>('arrow');
  const [problem, setProblem] = useState<string | null>(null);
  const [taking, setTaking] = useState(false);
  const add = async (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0];
    event.target.value = '';
    if (!file || !db) return;
    setTaking(true);
    const taken = await takePicture(db, file).finally(() => setTaking(false));
    if (!taken.ok) return setProblem(t(taken.why));
    setProblem(null);
    const { hash, widthPx, heightPx } = taken.photo;
    onPhotos([...photos, { hash, widthPx, heightPx, marks: [] }]);
  };
  const change = (hash: string, marks: (old: PhotoMark[]) => PhotoMark[]) =>
    onPhotos(photos.map((p) => (p.hash === hash ? { ...p, marks: marks(p.marks) } : p)));
  return (
    <>
      <label className="key flex cursor-pointer items-center justify-center focus-within:outline-3 focus-within:outline-water">
        {taking ? t('picture.taking') : label}
        <input
          type="file"
          accept="image/*"
          capture="environment"
          className="sr-only"
          disabled={taking}
          onChange={(e) => void add(e)}
        />
      </label>
      {problem && (
        <p role="alert" className="text-hold">
          {problem}
        </p>
      )}
      {photos.length > 0 && (
        <fieldset className="grid grid-cols-4 gap-1.5" aria-label={t('defect.tool')}>
          {TOOLS.map((k) => (
            <button
              type="button"
              key={k}
              className="key px-1 text-sm"
              aria-pressed={tool === k}
              onClick={() => setTool(k)}
            >
              {t(`mark.${k}`)}
            </button>
          ))}
        </fieldset>
      )}
      {photos.map((p) => (
        <div key={p.hash} className="flex flex-col gap-1">
          <MarkedPicture {...p} tool={tool} onMark={(mark) => change(p.hash, (old) => [...old, mark])} />
          {p.marks.length > 0 && (
            <button type="button" className="key self-start" onClick={() => change(p.hash, (old) => old.slice(0, -1))}>
              {t('mark.undo')}
            </button>
          )}
        </div>
      ))}
    </>
  );
}

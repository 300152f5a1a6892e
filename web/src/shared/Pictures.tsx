import type { PhotoMark, PhotoUse } from '@careful-seam/core/log/places';
import { type ChangeEvent, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { MarkedPicture } from '../drawing/MarkedPicture';
import { useStore } from '../tablet/store';
import { takePicture } from '../tablet/takePicture';

/** What can be drawn on a picture. */
const TOOLS: PhotoMark['kind'][] = ['arrow', 'circle', 'length', 'area'];

/** Pictures of one form: those that are taken, and what is on its way. */
export interface FormPictures {
  /** Pictures of the form, newest last. */
  photos: readonly PhotoUse[];
  /** Why the last one could not be taken, in words; null: it was. */
  problem: string | null;
  /** One is being made smaller and kept. */
  isTaking: boolean;
  /** Takes a picture from the camera or a file. */
  take: (file: File) => void;
  /** Changes the marks of one. */
  change: (hash: string, marks: (old: PhotoMark[]) => PhotoMark[]) => void;
  /**
   * All of them, once what is being made smaller is there; null where one could not be taken, which is said
   * beside its key, or where they are waited for already.
   */
  all: () => Promise<PhotoUse[] | null>;
}

/**
 * The pictures of a form, from those that it begins with. Whoever taps on at once loses none: a form waits for `all` before it
 * writes. `onPhotos` is told of each change.
 */
export function useFormPictures(
  start: readonly PhotoUse[] = [],
  onPhotos?: (photos: readonly PhotoUse[]) => void,
): FormPictures {
  const { t } = useTranslation();
  const db = useStore((s) => s.db);
  const [photos, setPhotos] = useState(start);
  const [problem, setProblem] = useState<string | null>(null);
  const [taking, setTaking] = useState(0);
  /** What was taken last, whatever has been drawn of it; and the end of what is being taken: whether all of it could be. */
  const newest = useRef(start);
  const ended = useRef<Promise<boolean>>(Promise.resolve(true));
  const waits = useRef(false);
  const keep = (next: readonly PhotoUse[]) => {
    newest.current = next;
    setPhotos(next);
    onPhotos?.(next);
  };
  const takeOne = async (file: File): Promise<boolean> => {
    if (!db) return false;
    setTaking((n) => n + 1);
    const taken = await takePicture(db, file)
      // Whatever went wrong is said: a form that waits in vain would not tell why.
      .catch(() => ({ ok: false, why: 'picture.notAPicture' }) as const)
      .finally(() => setTaking((n) => n - 1));
    setProblem(taken.ok ? null : t(taken.why));
    if (!taken.ok) return false;
    const { hash, widthPx, heightPx } = taken.photo;
    // The same one taken twice is one picture.
    if (!newest.current.some((p) => p.hash === hash)) keep([...newest.current, { hash, widthPx, heightPx, marks: [] }]);
    return true;
  };
  return {
    photos,
    problem,
    isTaking: taking > 0,
    take: (file) => {
      ended.current = ended.current.then(async (before) => (await takeOne(file)) && before);
    },
    change: (hash, marks) => keep(newest.current.map((p) => (p.hash === hash ? { ...p, marks: marks(p.marks) } : p))),
    all: async () => {
      // A second tap while the first one waits writes nothing.
      if (waits.current) return null;
      waits.current = true;
      const isWhole = await ended.current;
      waits.current = false;
      // What failed was said; the next tap goes on without it.
      ended.current = Promise.resolve(true);
      return isWhole ? [...newest.current] : null;
    },
  };
}

/** Takes pictures with the camera and marks them by finger: arrow, circle, length, area. `label` is what the key says. */
export function Pictures({ label, pictures }: { label: string; pictures: FormPictures }) {
  const { t } = useTranslation();
  const [tool, setTool] = useState<PhotoMark['kind']>('arrow');
  const { photos, problem, isTaking: taking, change } = pictures;
  const add = (event: ChangeEvent<HTMLInputElement>) => {
    for (const file of event.target.files ?? []) pictures.take(file);
    event.target.value = '';
  };
  return (
    <>
      <div className="flex gap-1.5">
        {(['camera', 'files'] as const).map((from) => (
          <label
            key={from}
            className={`key flex cursor-pointer items-center justify-center focus-within:outline-3 focus-within:outline-water ${from === 'camera' ? 'flex-1' : 'px-2 text-sm'}`}
          >
            {from === 'files' ? t('picture.fromFiles') : taking ? t('picture.taking') : label}
            <input
              type="file"
              accept="image/*"
              {...(from === 'camera' ? { capture: 'environment' as const } : { multiple: true })}
              className="sr-only"
              disabled={taking}
              onChange={add}
            />
          </label>
        ))}
      </div>
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

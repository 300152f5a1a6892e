import type { PhotoUse } from '@careful-seam/core/log/places';
import { type ChangeEvent, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useStore } from '../tablet/store';
import { takePicture } from '../tablet/takePicture';
import { type Hotkey, hotkey } from '../ui/hotkeys';

/** A key that takes a picture and does something with it at once. */
interface Props {
  /** What it says. */
  label: string;
  /** How it looks beside a key. */
  className?: string;
  /** From the camera at once, or whatever the device offers; more than one only from files. */
  from: 'camera' | 'files';
  /** Keys that write with one tap rest. */
  resting?: boolean;
  /** The letter of the keyboard that presses it. */
  letter?: Hotkey;
  /** Told of the pictures once they are kept on this tablet. What it throws is said by who throws it. */
  onPictures: (photos: PhotoUse[]) => void;
}

/** Takes a picture with the camera, or from files, keeps it on this tablet, and tells of it. What could not be taken is said. */
export function PictureKey({ label, className = '', from, resting = false, letter, onPictures }: Props) {
  const { t } = useTranslation();
  const db = useStore((s) => s.db);
  const [isTaking, setIsTaking] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const take = async (event: ChangeEvent<HTMLInputElement>) => {
    const files = [...(event.target.files ?? [])];
    event.target.value = '';
    if (!db || files.length === 0) return;
    setIsTaking(true);
    setProblem(null);
    const photos: PhotoUse[] = [];
    for (const file of files) {
      const taken = await takePicture(db, file).catch(() => ({ ok: false, why: 'picture.notAPicture' }) as const);
      if (!taken.ok) setProblem(t(taken.why));
      else if (!photos.some((p) => p.hash === taken.photo.hash)) {
        const { hash, widthPx, heightPx } = taken.photo;
        photos.push({ hash, widthPx, heightPx, marks: [] });
      }
    }
    setIsTaking(false);
    if (photos.length > 0) onPictures(photos);
  };
  return (
    <>
      <label
        className={`key flex cursor-pointer items-center justify-center text-center focus-within:outline-3 focus-within:outline-water ${className}`}
        aria-disabled={resting || isTaking}
      >
        {isTaking ? t('picture.taking') : label}
        <input
          type="file"
          accept="image/*"
          {...(from === 'camera' ? { capture: 'environment' as const } : { multiple: true })}
          className="sr-only"
          {...(letter ? hotkey(letter) : {})}
          disabled={isTaking || resting}
          onChange={(event) => void take(event)}
        />
      </label>
      {problem && (
        <p role="alert" className="text-hold">
          {problem}
        </p>
      )}
    </>
  );
}

import { useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { FileKey } from '../ui/FileKey';

/** Long enough for print at the size that papers show it, and small enough to travel in a form. */
const WIDE_PX = 900;
/** A logo is made no higher than this, px. */
const HIGH_PX = 320;

/** A picture as a firm's papers take it: small, on white, without metadata; null for a file that is no picture. */
async function asLogo(file: Blob): Promise<Blob | null> {
  const image = await createImageBitmap(file).catch(() => null);
  if (!image) return null;
  const scale = Math.min(1, WIDE_PX / image.width, HIGH_PX / image.height);
  const canvas = document.createElement('canvas');
  canvas.width = Math.max(1, Math.round(image.width * scale));
  canvas.height = Math.max(1, Math.round(image.height * scale));
  const ink = canvas.getContext('2d')!;
  ink.fillStyle = '#fff';
  ink.fillRect(0, 0, canvas.width, canvas.height);
  ink.drawImage(image, 0, 0, canvas.width, canvas.height);
  image.close();
  return new Promise((done) => canvas.toBlob(done, 'image/jpeg', 0.9));
}

/** The logo of the firm. */
interface Props {
  /** Address of the picture that is there, or a picture that was chosen; null: none. */
  shown: string | Blob | null;
  /** A picture as papers take it, or null to do without. */
  onChoose: (logo: Blob | null) => void;
}

/** The firm's logo: chosen from a file, looked at, taken away. */
export function LogoField({ shown, onChoose }: Props) {
  const { t } = useTranslation();
  const [problem, setProblem] = useState(false);
  const [url, setUrl] = useState<string | null>(null);
  useEffect(() => {
    if (!(shown instanceof Blob)) return setUrl(shown);
    const made = URL.createObjectURL(shown);
    setUrl(made);
    return () => URL.revokeObjectURL(made);
  }, [shown]);
  const choose = async (file: File) => {
    const logo = await asLogo(file);
    setProblem(logo === null);
    if (logo) onChoose(logo);
  };
  return (
    <div className="flex items-center gap-3">
      {url ? (
        <img
          src={url}
          alt={t('firm.logo')}
          className="h-12 max-w-40 rounded border border-hair bg-white object-contain p-1"
        />
      ) : (
        <span className="text-soft">{t('firm.noLogo')}</span>
      )}
      <FileKey label={t('firm.chooseLogo')} accept="image/*" onFile={(file) => void choose(file)} />
      {url && (
        <button type="button" className="key" onClick={() => onChoose(null)}>
          {t('firm.removeLogo')}
        </button>
      )}
      {problem && (
        <span role="alert" className="text-hold text-sm">
          {t('picture.notAPicture')}
        </span>
      )}
    </div>
  );
}

import type { KeptPicture } from '@careful-seam/core/proof/shown/pictures';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { momentWords } from '@careful-seam/words/sentences/moments';
import { elementName } from '@careful-seam/words/texts/names';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { MarkedPicture } from '../drawing/MarkedPicture';
import { usePicture } from '../drawing/usePicture';
import { Sheet } from '../ui/Sheet';

/** A small picture that opens. */
function Small({ picture, name, onOpen }: { picture: KeptPicture; name: string; onOpen: () => void }) {
  const { t } = useTranslation();
  const url = usePicture(picture.photo.hash);
  return (
    <button
      type="button"
      className={`relative size-16 flex-none overflow-hidden border-2 ${picture.of === 'before' ? 'border-hold' : 'border-edge'}`}
      aria-label={name}
      onClick={onOpen}
    >
      {url ? (
        <img src={url} alt="" className="size-full object-cover" />
      ) : (
        <span className="text-soft text-xs leading-none">{t('picture.pendingShort')}</span>
      )}
    </button>
  );
}

/** What pictures are shown. */
interface Props {
  /** The pictures, in their order. */
  pictures: readonly KeptPicture[];
  /** The drawing, for the names of places. */
  model: ShowerModel;
  /** Time zone of the site, by its IANA name. */
  zone: string | undefined;
  /** Takes a picture back that was taken by mistake; null where nobody may. */
  onTakeBack: ((picture: KeptPicture) => Promise<unknown>) | null;
  /** Whether this one may be taken back: what a look or a defect holds goes with it alone. */
  mayTakeBack?: (picture: KeptPicture) => boolean;
}

/** Pictures in a row, each opened by a tap: what it shows, who took it and when. Nothing where there are none. */
export function PictureStrip({ pictures, model, zone, onTakeBack, mayTakeBack }: Props) {
  const { t } = useTranslation();
  const [at, setAt] = useState<number | null>(null);
  if (pictures.length === 0) return null;
  const open = at === null ? undefined : pictures[at];
  const where = (p: KeptPicture) =>
    p.elements.length === 0
      ? t('picture.ofStage')
      : `${elementName(t, model, p.elements[0]!)}${p.elements.length > 1 ? ` (+${p.elements.length - 1})` : ''}`;
  const nameOf = (p: KeptPicture) => t(`picture.of.${p.of}`, { where: where(p) });
  return (
    <>
      <div className="flex flex-none gap-1.5 overflow-x-auto py-0.5" data-testid="pictures">
        {pictures.map((p, k) => (
          <Small key={`${p.entry} ${p.photo.hash}`} picture={p} name={nameOf(p)} onOpen={() => setAt(k)} />
        ))}
      </div>
      {open && (
        <Sheet title={nameOf(open)} onClose={() => setAt(null)}>
          <MarkedPicture {...open.photo} tool={null} />
          <p className="text-soft">
            {open.by}, {momentWords(Date.parse(open.observedAt), zone)}
          </p>
          {open.words && <p>{open.words}</p>}
          {pictures.length > 1 && (
            <div className="grid grid-cols-2 gap-2">
              {[-1, 1].map((step) => (
                <button
                  key={step}
                  type="button"
                  className="key"
                  disabled={pictures[at! + step] === undefined}
                  onClick={() => setAt(at! + step)}
                >
                  {t(step < 0 ? 'picture.before' : 'picture.next')}
                </button>
              ))}
            </div>
          )}
          {onTakeBack && mayTakeBack?.(open) && (
            <button type="button" className="key" onClick={() => void onTakeBack(open).then(() => setAt(null))}>
              {t('picture.mistaken')}
            </button>
          )}
        </Sheet>
      )}
    </>
  );
}

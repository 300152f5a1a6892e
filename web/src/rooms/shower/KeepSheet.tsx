import { placeOf } from '@careful-seam/core/checks/place';
import type { EntryKind } from '@careful-seam/core/log/bodies';
import { PhotoUse } from '@careful-seam/core/log/places';
import type { ShowerState } from '@careful-seam/core/log/state';
import { elementName } from '@careful-seam/words/texts/names';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { DraftLine, Renewable } from '../../shared/DraftLine';
import { Pictures, useFormPictures } from '../../shared/Pictures';
import { useHeld } from '../../shared/useDraft';
import { useStore } from '../../tablet/store';
import { Sheet } from '../../ui/Sheet';

/** What a picture or a note is of. */
export interface KeptAt {
  /** The shower that it is written to. */
  showerId: string;
  /** The shower as it stands now. */
  state: ShowerState;
  /** Key of the stage that is looked at. */
  stage: string;
  /** Id of the seam, corner, opening, drain or face; null for the stage as a whole. */
  element: string | null;
}

/** What is left of the form when it is not kept. */
const Left = z.object({ words: z.string(), photos: z.array(PhotoUse) });

/** Pictures of what is sound, several at a time, with words; or words alone. */
function KeepForm({
  showerId,
  state,
  stage,
  element,
  onClose,
  onAnew,
}: KeptAt & { onClose: () => void; onAnew: () => void }) {
  const { t } = useTranslation();
  const writeAll = useStore((s) => s.writeAll);
  const { told, tell, draft } = useHeld({ kind: 'sound', showerId, stage, element }, Left, { words: '', photos: [] });
  const { words, photos } = told;
  const pictures = useFormPictures(draft.start.photos, (all) => tell({ photos: [...all] }));
  const keep = async () => {
    const all = await pictures.all();
    const said = words.trim();
    if (!all || (all.length === 0 && said === '')) return;
    const at = element === null ? {} : { place: placeOf(state, element) };
    const drafts: { kind: EntryKind; body: unknown }[] =
      all.length === 0
        ? [{ kind: 'note', body: { words: said, stage, ...at } }]
        : all.map((photo) => ({ kind: 'photo', body: { photo, stage, ...at, ...(said ? { words: said } : {}) } }));
    await writeAll(showerId, drafts, draft.about);
    draft.drop();
    onClose();
  };
  const nothing = photos.length === 0 && !pictures.isTaking && words.trim() === '';
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        void keep();
      }}
    >
      <DraftLine draft={draft} onAnew={onAnew} />
      <Pictures label={t('picture.take')} pictures={pictures} />
      <label className="flex flex-col gap-1">
        <span className="text-soft text-sm">{t('picture.words')}</span>
        <textarea
          className="field"
          rows={2}
          maxLength={2000}
          value={words}
          onChange={(e) => tell({ words: e.target.value })}
        />
      </label>
      <button type="submit" className="key key-main text-lg" disabled={nothing}>
        {t(photos.length === 0 ? 'picture.keepNote' : 'picture.keep', { count: photos.length })}
      </button>
    </form>
  );
}

/** The sheet in which a picture or a note of what is sound is kept. */
export function KeepSheet(props: KeptAt & { onClose: () => void }) {
  const { t } = useTranslation();
  const { state, stage, element, onClose } = props;
  const label = state.rules!.method.stages.find((s) => s.key === stage)?.label ?? stage;
  return (
    <Sheet
      title={t('picture.title', { where: element === null ? label : elementName(t, state.geometry!.model, element) })}
      onClose={onClose}
    >
      <Renewable form={(anew) => <KeepForm {...props} onAnew={anew} />} />
    </Sheet>
  );
}

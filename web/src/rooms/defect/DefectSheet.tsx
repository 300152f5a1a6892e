import { askedOfKind } from '@careful-seam/core/checks/asked';
import { kindsHere } from '@careful-seam/core/checks/kindsHere';
import { placeOf } from '@careful-seam/core/checks/place';
import { BODIES } from '@careful-seam/core/log/bodies';
import type { Defect } from '@careful-seam/core/log/defect';
import { PhotoUse } from '@careful-seam/core/log/places';
import type { ShowerState } from '@careful-seam/core/log/state';
import { isMilder } from '@careful-seam/core/log/who';
import { SEVERITIES } from '@careful-seam/core/rules/checks/checkBase';
import { elementName } from '@careful-seam/words/texts/names';
import { zodResolver } from '@hookform/resolvers/zod';
import { useEffect, useMemo, useState } from 'react';
import { useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { MarkedPicture } from '../../drawing/MarkedPicture';
import { DraftLine, Renewable } from '../../shared/DraftLine';
import { Pictures, useFormPictures } from '../../shared/Pictures';
import { StretchFields } from '../../shared/StretchFields';
import { useDraft } from '../../shared/useDraft';
import { newId, useParts } from '../../tablet/store';
import { Choice } from '../../ui/Choice';
import { SelectField, TextArea } from '../../ui/fields';
import { Sheet } from '../../ui/Sheet';
import { lacksTrade } from './MakerFields';
import { Said, SaidFields, saidBody, saidOf } from './SaidFields';

/** Where a defect is, or which one gets its words and pictures. */
interface Props {
  /** The shower that it is written to. */
  showerId: string;
  /** The shower as it stands now. */
  state: ShowerState;
  /** Key of the stage that is looked at. */
  stage: string;
  /** Id of the seam, corner, opening, drain or face. */
  element: string;
  /** A defect that a reading or look opened already; null opens a new one. */
  defect: Defect | null;
  /** The stretch of the seam that was chosen before; null for all of it. */
  stretch: { fromMm: number; toMm: number } | null;
  /** Told when it is done with, kept or not. */
  onClose: () => void;
}

/** What an entry of this kind may say. */
const { kind, severity, words } = BODIES['defect-found'].shape;
/** What is chosen and typed beside its place and its pictures. */
const Fields = z.object({ kind, severity, words: words.trim() });
/** What is chosen and typed. */
type Fields = z.infer<typeof Fields>;

/** What is left of the form when it is not kept. */
const Left = z.object({
  told: z.object({ kind: z.string(), severity, words: z.string() }),
  said: Said,
  place: z.object({ fromMm: z.number(), toMm: z.number() }),
  photos: z.array(PhotoUse),
});

/** What the form says, held from the first letter on. */
function useDefectForm({ showerId, state, stage, element, defect, stretch }: Props) {
  const lengthMm = state.seamById.get(element)?.lengthMm ?? null;
  const known = defect?.places[0];
  const { kinds, usual } = useMemo(
    () => kindsHere(state, stage, element, defect?.kind, defect?.check),
    [state, stage, element, defect],
  );
  const draft = useDraft({ kind: 'defect', showerId, stage, element, defect: defect?.id ?? null }, Left, {
    told: {
      kind: defect?.kind ?? usual[0] ?? kinds[0]?.id ?? 'other',
      severity: defect?.severity ?? 'fix',
      words: defect?.words ?? '',
    },
    said: saidOf(defect),
    place: {
      fromMm: stretch?.fromMm ?? known?.fromMm ?? 0,
      toMm: stretch?.toMm ?? known?.toMm ?? lengthMm ?? 0,
    },
    photos: [],
  });
  const form = useForm<Fields>({
    resolver: zodResolver(Fields),
    defaultValues: draft.start.told,
  });
  const { kind, severity, words } = form.watch();
  const [said, setSaid] = useState<Said>(draft.start.said);
  // A stretch that was chosen just now is where it is, whatever was left.
  const [place, setPlace] = useState(stretch ?? draft.start.place);
  const [photos, setPhotos] = useState<readonly PhotoUse[]>(draft.start.photos);
  const pictures = useFormPictures(draft.start.photos, setPhotos);
  const { hold } = draft;
  useEffect(() => {
    hold({ told: { kind, severity, words }, said, place, photos: [...photos] });
  }, [hold, kind, severity, words, said, place, photos]);
  return { draft, form, kinds, lengthMm, kind, severity, said, setSaid, place, setPlace, pictures };
}

/** So many kinds stand as keys, those that are usual at this place first. */
const LIKELY = 3;

/** The form of a defect: its place, kind, severity, why it happened, and pictures that are marked by finger. */
function DefectForm(props: Props & { onAnew: () => void }) {
  const { showerId, state, stage, element, defect, onClose, onAnew } = props;
  const { t } = useTranslation();
  const { write, writeAll, person } = useParts('write', 'writeAll', 'person');
  const isManager = person?.role === 'manager';
  const { draft, form, kinds, lengthMm, kind, severity, said, setSaid, place, setPlace, pictures } =
    useDefectForm(props);
  const { register, handleSubmit, setValue, formState } = form;
  const keep = handleSubmit(async (told) => {
    const photos = await pictures.all();
    if (!photos) return;
    const at = placeOf(state, element, lengthMm === null ? {} : place);
    const body = { stage, place: at, ...told, photos, ...saidBody(said, defect) };
    const checks = askedOfKind(state.requirements, 'looked')
      .filter((r) => r.stage.key === stage && r.element === element)
      // What is milder than a check stops does not fail that check.
      .filter((r) => !isMilder(told.severity, r.check.severity))
      .map((r) => r.check.id);
    if (defect) await write(showerId, 'defect-found', { ...body, about: defect.id }, draft.about);
    else if (checks.length === 0) await write(showerId, 'defect-found', body, draft.about);
    else {
      // A defect that was seen is the answer of a look: the check fails there until it was redone and looked at again.
      const id = newId();
      const look = { kind: 'look' as const, id, body: { stage, checks, places: [at], answer: 'defect' } };
      await writeAll(showerId, [look, { kind: 'defect-found', body: { ...body, about: id } }], draft.about);
    }
    draft.drop();
    onClose();
  });
  return (
    <form className="flex flex-col gap-3" onSubmit={(e) => void keep(e)}>
      <DraftLine draft={draft} onAnew={onAnew} />
      <Choice
        label={t('defect.likely')}
        value={kind}
        options={kinds.slice(0, LIKELY).map(({ id, label }) => ({ key: id, label }))}
        onChoose={(id) => setValue('kind', id)}
      />
      <SelectField label={t('defect.kind')} options={kinds} {...register('kind')} />
      <Choice
        label={t('defect.severity')}
        value={severity}
        options={SEVERITIES.map((key) => ({
          key,
          label: t(`severity.${key}`),
          disabled: !isManager && defect !== null && isMilder(key, defect.severity),
        }))}
        onChoose={(key) => setValue('severity', key)}
      />
      <p className="text-soft text-sm">
        {t(`severityMeaning.${severity}`)} {!isManager && defect !== null && t('defect.milderByManager')}
      </p>
      <SaidFields
        state={state}
        stage={stage}
        element={element}
        defect={defect}
        kind={kind}
        said={said}
        onSaid={setSaid}
      />
      {lengthMm !== null && <StretchFields stretch={place} lengthMm={lengthMm} onStretch={setPlace} />}
      <TextArea label={t('defect.words')} {...register('words')} />
      <Pictures label={t('defect.takePicture')} pictures={pictures} />
      {(defect?.photos ?? []).map((p) => (
        <MarkedPicture key={p.hash} {...p} tool={null} />
      ))}
      <button
        type="submit"
        className="key key-main text-lg"
        disabled={formState.isSubmitting || lacksTrade(said.made) || (lengthMm !== null && place.toMm <= place.fromMm)}
      >
        {t('defect.keep')}
      </button>
    </form>
  );
}

/** Records a defect, or what is said of one more. What is typed stays until it is kept. */
export function DefectSheet(props: Props) {
  const { t } = useTranslation();
  const { state, element, onClose } = props;
  return (
    <Sheet title={t('defect.title', { where: elementName(t, state.geometry!.model, element) })} onClose={onClose}>
      <Renewable form={(anew) => <DefectForm {...props} onAnew={anew} />} />
    </Sheet>
  );
}

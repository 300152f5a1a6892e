import { BODIES } from '@careful-seam/core/log/bodies';
import type { Defect } from '@careful-seam/core/log/defect';
import { CAUSE_CONFIDENCES } from '@careful-seam/core/log/defectBodies';
import { PhotoUse } from '@careful-seam/core/log/places';
import type { ShowerState } from '@careful-seam/core/log/state';
import { mayClose } from '@careful-seam/core/proof/fold/foldDefects';
import { offered } from '@careful-seam/core/rules/listed';
import { zodResolver } from '@hookform/resolvers/zod';
import { useEffect, useState } from 'react';
import { useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { DraftLine, Renewable } from '../../shared/DraftLine';
import { Pictures, useFormPictures } from '../../shared/Pictures';
import { useDraft } from '../../shared/useDraft';
import { useParts } from '../../tablet/store';
import { Choice } from '../../ui/Choice';
import { SelectField, TextField } from '../../ui/fields';
import { Problem } from '../../ui/Loaded';
import { lacksTrade, Made, MakerFields, madeBody, madeOf } from './MakerFields';

/** The defect that is closed. */
interface Props {
  /** The shower that it is written to. */
  showerId: string;
  /** The shower as it stands now. */
  state: ShowerState;
  /** The defect, with all that was said of it so far. */
  defect: Defect;
  /** Told when it is written. */
  onDone: () => void;
}

/** What an entry of this kind may say. */
const { cost, cause } = BODIES['defect-closed'].shape;
/** A figure as it is typed, with a comma or a point, by the limits of the entry; null where nothing is typed. */
const typedFigure = (figure: z.ZodNumber) =>
  z
    .string()
    .transform((typed) => (typed.trim() === '' ? null : Number(typed.trim().replace(',', '.'))))
    .pipe(figure.nullable());
/** What is typed. */
const Fields = z.object({
  family: z.string(),
  confidence: z.enum(CAUSE_CONFIDENCES),
  causeWords: cause.unwrap().shape.words.unwrap().trim(),
  escaped: z.string(),
  hours: typedFigure(cost.unwrap().shape.hours),
  materials: typedFigure(cost.unwrap().shape.materials),
});

/** What is left of the form when it is not kept. */
const Left = z.object({
  told: z.object({
    family: z.string(),
    confidence: z.enum(CAUSE_CONFIDENCES),
    causeWords: z.string(),
    escaped: z.string(),
    hours: z.string(),
    materials: z.string(),
  }),
  made: Made,
  photos: z.array(PhotoUse),
});

/**
 * Closes a defect with the two answers, where and by whom it was made, its cost and a picture of how it is now. Of what stops or is fixed
 * both answers are asked; "not known" is one.
 */
export function CloseForm(props: Props) {
  return <Renewable form={(anew) => <ClosingFields {...props} onAnew={anew} />} />;
}

/** The fields of the closing. */
function ClosingFields({ showerId, state, defect, onDone, onAnew }: Props & { onAnew: () => void }) {
  const { t } = useTranslation();
  const { write, settings, person } = useParts('write', 'settings', 'person');
  const may = mayClose(state, defect, person?.role === 'manager');
  const { causes, escapes } = state.rules!.book;
  const draft = useDraft({ kind: 'close', showerId, stage: defect.stage, defect: defect.id }, Left, {
    told: {
      family: defect.cause?.family ?? '',
      confidence: defect.cause?.confidence ?? 'suspected',
      causeWords: defect.cause?.words ?? '',
      escaped: defect.escape?.family ?? '',
      hours: '',
      materials: '',
    },
    made: madeOf(defect),
    photos: [],
  });
  const { register, handleSubmit, watch, setValue, formState } = useForm({
    resolver: zodResolver(Fields),
    mode: 'onChange',
    defaultValues: draft.start.told,
  });
  const [photos, setPhotos] = useState<readonly PhotoUse[]>(draft.start.photos);
  const pictures = useFormPictures(draft.start.photos, setPhotos);
  const [made, setMade] = useState(draft.start.made);
  const { hold } = draft;
  const said = JSON.stringify(watch());
  useEffect(() => {
    hold({ told: JSON.parse(said) as z.infer<typeof Left>['told'], made, photos: [...photos] });
  }, [hold, said, made, photos]);
  const close = handleSubmit(async ({ family, confidence, causeWords, escaped, hours, materials }) => {
    const photos = await pictures.all();
    if (!photos) return;
    const body = {
      defect: defect.id,
      photos,
      ...madeBody(made),
      ...(family ? { cause: { family, confidence, words: causeWords } } : {}),
      ...(escaped ? { escape: { family: escaped } } : {}),
      ...(hours === null && materials === null ? {} : { cost: { hours: hours ?? 0, materials: materials ?? 0 } }),
    };
    await write(showerId, 'defect-closed', body, draft.about);
    draft.drop();
    onDone();
  });
  const needsAnswers = defect.severity !== 'note';
  const answered = watch('family') !== '' && watch('escaped') !== '';
  const wrong = formState.errors.hours ?? formState.errors.materials;
  return (
    <form className="flex flex-col gap-2 border-edge border-t pt-2" onSubmit={(e) => void close(e)}>
      <h3 className="font-bold">{t('life.closeTitle')}</h3>
      <DraftLine draft={draft} onAnew={onAnew} />
      <SelectField
        label={t('life.whatWentWrong')}
        options={offered(causes, watch('family'))}
        none={t('life.notSaid')}
        {...register('family')}
      />
      {watch('family') && (
        <>
          <Choice
            label={t('life.howSure')}
            value={watch('confidence')}
            onChoose={(confidence) => setValue('confidence', confidence)}
            options={CAUSE_CONFIDENCES.map((key) => ({ key, label: t(`confidence.${key}`) }))}
          />
          <TextField label={t('life.causeWords')} {...register('causeWords')} />
        </>
      )}
      <SelectField
        label={t('life.whyNotCaught')}
        options={offered(escapes, watch('escaped'))}
        none={t('life.notSaid')}
        {...register('escaped')}
      />
      {needsAnswers && !answered && <p className="text-soft text-sm">{t('life.answersNeeded')}</p>}
      <MakerFields state={state} defect={defect} made={made} onMade={setMade} />
      <div className="grid grid-cols-2 gap-2">
        <TextField label={t('life.hours')} inputMode="decimal" {...register('hours')} />
        <TextField
          label={t('life.materials', { currency: settings?.currency ?? '' })}
          inputMode="decimal"
          {...register('materials')}
        />
      </div>
      <Problem text={wrong ? t('life.costWrong') : null} />
      <Pictures label={t('life.takeAfter')} pictures={pictures} />
      {!may && <p className="border-hold border-l-4 pl-2 text-hold">{t('life.closeNeedsLook')}</p>}
      <button
        type="submit"
        className="key key-main text-lg"
        disabled={
          wrong !== undefined || !may || lacksTrade(made) || (needsAnswers && !answered) || formState.isSubmitting
        }
      >
        {t('life.close')}
      </button>
    </form>
  );
}

import type { Body } from '@careful-seam/core/log/bodies';
import type { Defect } from '@careful-seam/core/log/defect';
import type { ShowerState } from '@careful-seam/core/log/state';
import { momentWords } from '@careful-seam/words/sentences/moments';
import { defectKindLabel } from '@careful-seam/words/sentences/sentences';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { CauseKeys } from '../../shared/CauseKeys';
import { SelectField } from '../../ui/fields';
import { Made, MakerFields, madeBody, madeOf, NOTHING_TOLD } from './MakerFields';

/** What is said of a defect beside what it is: why, by whom and where it was made, what it repeats. */
export const Said = z.object({
  /** Family of causes; empty while it is not known. */
  family: z.string(),
  /** Where and by whom it was made. */
  made: Made,
  /** Id of an earlier defect; empty for none. */
  repeats: z.string(),
});
/** What is said of a defect beside what it is. */
export type Said = z.infer<typeof Said>;

/** What was said of a defect before; nothing of a new one. */
export const saidOf = (defect: Defect | null): Said => ({
  family: defect?.cause?.family ?? '',
  made: defect ? madeOf(defect) : NOTHING_TOLD,
  repeats: defect?.repeats ?? '',
});

/** What an entry says of it. A cause that was said before keeps how sure it is; a new one is a suspicion. */
export function saidBody(
  { family, made, repeats }: Said,
  defect: Defect | null,
): Pick<Body<'defect-found'>, 'cause' | 'madeBy' | 'stageMade' | 'repeats'> {
  const known = defect?.cause?.family === family ? defect.cause : null;
  return {
    ...(family ? { cause: known ?? { family, confidence: 'suspected' } } : {}),
    ...madeBody(made),
    ...(repeats ? { repeats } : {}),
  };
}

/** The defect of which it is said. */
interface Props {
  /** The shower as it stands now. */
  state: ShowerState;
  /** Key of the stage that is looked at. */
  stage: string;
  /** Id of the seam, corner, opening, drain or face. */
  element: string;
  /** A defect that is there already; null for a new one. */
  defect: Defect | null;
  /** Its kind, as it is chosen now. */
  kind: string;
  /** What is said. */
  said: Said;
  /** Told of what is said now. */
  onSaid: (said: Said) => void;
}

/** Why it happened, who made it and at which stage, and which earlier defect of the same place it repeats. */
export function SaidFields({ state, stage, element, defect, kind, said, onSaid }: Props) {
  const { t } = useTranslation();
  const { book } = state.rules!;
  const earlier = [...state.defects.values()].filter(
    (d) => d.id !== defect?.id && d.places.some((p) => p.element === element),
  );
  return (
    <>
      <CauseKeys
        book={book}
        kind={kind}
        label={t('defect.cause')}
        value={said.family}
        onChoose={(family) => onSaid({ ...said, family })}
      />
      <MakerFields
        state={state}
        defect={{ stage, kind, seq: defect?.seq ?? state.seq + 1 }}
        made={said.made}
        onMade={(made) => onSaid({ ...said, made })}
      />
      {earlier.length > 0 && (
        <SelectField
          label={t('defect.repeats')}
          none={t('defect.repeatsNone')}
          options={earlier.map((d) => ({
            id: d.id,
            label: `${defectKindLabel(book, d.kind, d.check)}, ${momentWords(Date.parse(d.observedAt), state.created?.body.timeZone)}`,
          }))}
          value={said.repeats}
          onChange={(e) => onSaid({ ...said, repeats: e.target.value })}
        />
      )}
    </>
  );
}

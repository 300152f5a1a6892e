import { crewAt, stageMadeOf } from '@careful-seam/core/crews/maker';
import type { Defect } from '@careful-seam/core/log/defect';
import type { MadeBy } from '@careful-seam/core/log/defectBodies';
import type { ShowerState } from '@careful-seam/core/log/state';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { standingCrews } from '../../shared/standingCrews';
import { useParts } from '../../tablet/store';
import { SelectField, TextField } from '../../ui/fields';

/** What is told of where and by whom a defect was made; empty for what the work that was told says by itself. */
export const Made = z.object({
  /** Key of the stage it was made at; empty for the one that is proposed. */
  stage: z.string(),
  /** `crew:` with an id, `trade`, `house`, `unknown`; empty for what is proposed. */
  by: z.string(),
  /** The other trade, in words. */
  trade: z.string(),
});
/** What is told of where and by whom a defect was made. */
export type Made = z.infer<typeof Made>;

/** Nothing was told yet. */
export const NOTHING_TOLD: Made = { stage: '', by: '', trade: '' };

/** What was told before. */
export const madeOf = (defect: Pick<Defect, 'stageMade' | 'madeBy'>): Made => ({
  stage: defect.stageMade ?? '',
  by: defect.madeBy === null ? '' : defect.madeBy.of === 'crew' ? `crew:${defect.madeBy.crewId}` : defect.madeBy.of,
  trade: defect.madeBy?.of === 'trade' ? defect.madeBy.trade : '',
});

/** What an entry says of it. */
export function madeBody({ stage, by, trade }: Made): { stageMade?: string; madeBy?: MadeBy } {
  const madeBy = ((): MadeBy | null => {
    if (by.startsWith('crew:')) return { of: 'crew', crewId: by.slice('crew:'.length) };
    if (by === 'trade') return { of: 'trade', trade: trade.trim() };
    return by === 'house' || by === 'unknown' ? { of: by } : null;
  })();
  return { ...(stage ? { stageMade: stage } : {}), ...(madeBy ? { madeBy } : {}) };
}

/** True where another trade is meant that nobody has named. */
export const lacksTrade = ({ by, trade }: Made): boolean => by === 'trade' && trade.trim() === '';

/** The defect whose making is told. */
interface Props {
  /** The shower as it stands now. */
  state: ShowerState;
  /** What is known of it so far: where it was found, its kind, its place in the order. */
  defect: Pick<Defect, 'stage' | 'kind' | 'seq'>;
  /** What is told. */
  made: Made;
  /** Told of what is told now. */
  onMade: (made: Made) => void;
}

/** Where it was made and by whom: proposed by the kind and by the work that was told, changed by whoever knows better. */
export function MakerFields({ state, defect, made, onMade }: Props) {
  const { t } = useTranslation();
  const { crews } = useParts('crews');
  const stages = state.rules!.method.stages;
  const orderOf = (key: string) => stages.find((s) => s.key === key)?.order ?? 0;
  // Nothing is made after it was found.
  const before = stages.filter((s) => s.order <= orderOf(defect.stage));
  const proposed = stageMadeOf(state, { ...defect, stageMade: null });
  const nameOf = (id: string) => crews.find((c) => c.id === id)?.name ?? id;
  const told = crewAt(state, made.stage || proposed, defect.seq);
  const usual =
    told === null
      ? t('defect.byShower', { crew: nameOf(state.created!.body.crewId) })
      : t('defect.byWork', { crew: nameOf(told) });
  return (
    <div className="grid grid-cols-2 gap-2">
      <SelectField
        label={t('defect.stageMade')}
        options={before.map((s) => ({ id: s.key, label: s.label }))}
        value={made.stage || proposed}
        onChange={(e) => onMade({ ...made, stage: e.target.value === proposed ? '' : e.target.value })}
      />
      <SelectField
        label={t('defect.madeBy')}
        none={usual}
        options={[
          ...standingCrews(crews).map((c) => ({ id: `crew:${c.id}`, label: c.name })),
          { id: 'trade', label: t('defect.trade') },
          { id: 'house', label: t('defect.house') },
          { id: 'unknown', label: t('defect.makerUnknown') },
        ]}
        value={made.by}
        onChange={(e) => onMade({ ...made, by: e.target.value })}
      />
      {made.by === 'trade' && (
        <div className="col-span-2">
          <TextField
            label={t('defect.whichTrade')}
            value={made.trade}
            maxLength={120}
            onChange={(e) => onMade({ ...made, trade: e.target.value })}
          />
        </div>
      )}
    </div>
  );
}

import { WHOLE_SHOWER } from '@careful-seam/core/checks/requirements';
import type { ShowerState } from '@careful-seam/core/log/state';
import { sumsOf } from '@careful-seam/core/rules/tools';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useStore } from '../../../tablet/store';
import { Choice } from '../../../ui/Choice';
import { usePreferences } from '../../../ui/preferences';
import { Sheet } from '../../../ui/Sheet';
import { SumFields, SumResult } from '../../../ui/SumFields';
import { ContactGrid } from './ContactGrid';
import { readSum, type StageSum } from './stageSum';
import { SUMS } from './stageSums';

/** The stage whose sums are worked out. */
interface Props {
  /** The shower that it is written to. */
  showerId: string;
  /** The shower as it stands now. */
  state: ShowerState;
  /** Key of the stage that is looked at. */
  stage: string;
  /** Told when it is done with, kept or not. */
  onClose: () => void;
}

/** One sum: what is typed and what it comes to. */
function OneSum({ sum, showerId, state, onClose }: Props & { sum: StageSum }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const write = useStore((s) => s.write);
  const [typed, setTyped] = useState(Object.fromEntries(sum.fields.map((f) => [f.key, f.start(state, unit)])));
  const read = readSum(sum, typed, unit);
  const found = 'values' in read ? sum.work(t, unit, read.values, state) : null;
  const problem =
    'problem' in read
      ? read.problem === ''
        ? null
        : t('floorSum.wrong', {
            field: t(`floorSum.${sum.words ?? sum.key}.field.${read.field}`),
            problem: read.problem,
          })
      : found && 'problem' in found
        ? found.problem
        : null;
  const lines = found && 'lines' in found ? found.lines : null;
  const keep = async () => {
    await write(showerId, 'note', { words: lines!.join(' '), place: { element: WHOLE_SHOWER } });
    onClose();
  };
  return (
    <>
      <p className="text-soft text-sm">{t(`floorSum.${sum.words ?? sum.key}.what`)}</p>
      {sum.fields.flatMap(({ key, kind }) =>
        kind === 'grid'
          ? [
              <ContactGrid
                key={key}
                bare={(typed[key] ?? '') === '' ? [] : typed[key]!.split(';').map(Number)}
                onBare={(bare) => setTyped({ ...typed, [key]: bare.join(';') })}
              />,
            ]
          : [],
      )}
      {sum.fields.flatMap(({ key, options }) =>
        options
          ? [
              <Choice
                key={key}
                label={t(`floorSum.${sum.words ?? sum.key}.field.${key}`)}
                value={typed[key] ?? '0'}
                options={options.map((o, i) => ({
                  key: String(i),
                  label: t(`floorSum.${sum.words ?? sum.key}.option.${o}`),
                }))}
                onChoose={(value) => setTyped({ ...typed, [key]: value })}
              />,
            ]
          : [],
      )}
      <SumFields
        names={sum.fields.filter((f) => f.kind !== 'choice' && f.kind !== 'grid').map((f) => f.key)}
        label={(key) => t(`floorSum.${sum.words ?? sum.key}.field.${key}`)}
        typed={typed}
        onType={setTyped}
      />
      {(problem !== null || lines) && <SumResult lines={lines ?? []} problem={problem} />}
      {lines && (
        <button type="button" className="key key-main" onClick={() => void keep()}>
          {t('sum.keep')}
        </button>
      )}
    </>
  );
}

/** The arithmetic of a stage of the floor; what it comes to is kept as a note when wanted. */
export function StageSumSheet(props: Props) {
  const { t } = useTranslation();
  const stage = props.state.rules!.method.stages.find((s) => s.key === props.stage)!;
  const sums = sumsOf(stage).map((key): StageSum => ({ key, ...SUMS[key] }));
  const [chosen, setChosen] = useState<string>(sums[0]!.key);
  const sum = sums.find((s) => s.key === chosen)!;
  return (
    <Sheet title={t('sum.open')} onClose={props.onClose}>
      {sums.length > 1 && (
        <Choice
          label={t('floorSum.which')}
          value={chosen}
          options={sums.map((s) => ({ key: s.key, label: t(`floorSum.${s.words ?? s.key}.title`) }))}
          onChoose={setChosen}
        />
      )}
      <OneSum key={chosen} {...props} sum={sum} />
    </Sheet>
  );
}

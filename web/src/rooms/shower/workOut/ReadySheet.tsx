import { placeOf } from '@careful-seam/core/checks/place';
import { WHOLE_SHOWER } from '@careful-seam/core/checks/requirements';
import type { Requirement } from '@careful-seam/core/log/judgement';
import type { ShowerState } from '@careful-seam/core/log/state';
import { findMethod } from '@careful-seam/core/rules/ruleBook';
import { settingOf } from '@careful-seam/core/rules/tools';
import {
  type ReadyStep,
  readySteps,
  SUBSTRATES,
  type Substrate,
  substrateReady,
} from '@careful-seam/core/walls/readySteps';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useStore } from '../../../tablet/store';
import { Choice } from '../../../ui/Choice';
import { Sheet } from '../../../ui/Sheet';

/** The check that readiness answers. */
interface Props {
  /** The shower that it is written to. */
  showerId: string;
  /** The shower as it stands now. */
  state: ShowerState;
  /** What is asked: the check, the element it is asked of, and the side of a seam. */
  requirement: Requirement;
  /** Told when it is done with, kept or not. */
  onClose: () => void;
}

/** Is the substrate ready for what goes on it? Step by step; what is missing is named and holds. */
export function ReadySheet({ showerId, state, requirement, onClose }: Props) {
  const { t } = useTranslation();
  const writeAll = useStore((s) => s.writeAll);
  const { book, pinned } = state.rules!;
  const setting = settingOf(findMethod(book, pinned.parts?.floor ?? pinned.method)!);
  const [substrate, setSubstrate] = useState<Substrate>('wood');
  const [done, setDone] = useState<ReadyStep[]>([]);
  const steps = readySteps(setting, substrate);
  const { ready, missing } = substrateReady(setting, substrate, done);
  const name = (list: readonly ReadyStep[]) => list.map((s) => t(`ready.step.${s}`)).join('; ');
  const keep = async () => {
    const told = ready
      ? t('ready.told', { substrate: t(`ready.on.${substrate}`), steps: name(steps) })
      : t('ready.toldMissing', { substrate: t(`ready.on.${substrate}`), steps: name(missing) });
    await writeAll(showerId, [
      {
        kind: 'look',
        body: {
          stage: requirement.stage.key,
          checks: [requirement.check.id],
          places: [
            requirement.element === WHOLE_SHOWER ? { element: WHOLE_SHOWER } : placeOf(state, requirement.element),
          ],
          answer: ready ? 'ok' : 'defect',
          reason: told,
        },
      },
    ]);
    onClose();
  };
  return (
    <Sheet title={t('ready.title')} onClose={onClose}>
      <p className="text-soft text-sm">{t('ready.what')}</p>
      <Choice
        label={t('ready.substrate')}
        value={substrate}
        options={SUBSTRATES.map((key) => ({ key, label: t(`ready.on.${key}`) }))}
        onChoose={(next) => {
          setSubstrate(next);
          setDone([]);
        }}
      />
      <ul>
        {steps.map((step) => (
          <li key={step} className="border-hair border-b">
            <label className="flex min-h-12 items-center gap-2">
              <input
                type="checkbox"
                className="size-6 flex-none"
                checked={done.includes(step)}
                onChange={(e) => setDone(e.target.checked ? [...done, step] : done.filter((s) => s !== step))}
              />
              {t(`ready.step.${step}`)}
            </label>
          </li>
        ))}
      </ul>
      <p data-testid="ready" className={`border-l-4 pl-2 text-lg ${ready ? 'border-ink font-bold' : 'border-cure'}`}>
        {ready ? t('ready.isReady') : t('ready.missing', { steps: name(missing) })}
      </p>
      <button type="button" className="key key-main text-lg" onClick={() => void keep()}>
        {t(ready ? 'ready.keep' : 'ready.keepMissing')}
      </button>
    </Sheet>
  );
}

import { calculationVersions } from '@careful-seam/core/outcome/versions';
import { releaseStatement } from '@careful-seam/core/proof/holds/stand';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { oneTap, useResting } from '../../shared/oneTap';
import { type LocalShower, useStore } from '../../tablet/store';

/** What a release says: what it rests on, as it stood when it was judged. */
function releaseBody(shower: LocalShower, stage: string, personId: string, upholds?: string) {
  return {
    stage,
    judged: {
      ledgerSeq: shower.stored.cursor,
      ledgerHash: shower.stored.headHash ?? '',
      deviceSeq: shower.stored.chains[personId]?.deviceSeq ?? 0,
    },
    ...releaseStatement(shower.state, stage),
    calculations: calculationVersions(),
    ...(upholds ? { upholds } : {}),
  };
}

/** The stage that is released or opened again. */
interface Props {
  /** The shower as this tablet has worked it out. */
  shower: LocalShower;
  /** Key of the stage that is looked at. */
  stage: string;
  /** The stage in words. */
  label: string;
  /** How many things hold it. */
  holds: number;
  /** Told of a release. */
  onReleased?: () => void;
}

/** Release, or what holds it; a released stage is reopened, a contested one upheld by a manager, each with a reason. */
export function StageDecision({ shower, stage, label, holds, onReleased }: Props) {
  const { t } = useTranslation();
  const write = useStore((s) => s.write);
  const person = useStore((s) => s.person)!;
  const [reason, setReason] = useState('');
  const resting = useResting();
  const word = shower.state.stages.get(stage)?.word;
  const released = word === 'released';
  const contested = word === 'contested';
  return (
    <>
      {(released || contested) && (
        <div className="flex gap-1.5">
          <input
            className="field"
            value={reason}
            onChange={(e) => setReason(e.target.value)}
            aria-label={t('stage.reason')}
            placeholder={t('stage.reason')}
          />
          <button
            type="button"
            className="key flex-none"
            disabled={reason.trim() === ''}
            onClick={() =>
              void write(shower.id, 'stage-reopened', { stage, reason: reason.trim() }).then(() => setReason(''))
            }
          >
            {t('stage.reopen')}
          </button>
          {contested && person.role === 'manager' && (
            <button
              type="button"
              className="key flex-none"
              disabled={reason.trim() === ''}
              onClick={() =>
                void write(shower.id, 'stage-released', releaseBody(shower, stage, person.id, reason.trim())).then(() =>
                  setReason(''),
                )
              }
            >
              {t('stage.uphold')}
            </button>
          )}
        </div>
      )}
      {!released && !(contested && holds > 0) && (
        <button
          type="button"
          className="key key-main text-lg"
          disabled={holds > 0}
          aria-disabled={resting}
          onClick={() =>
            oneTap(() =>
              write(shower.id, 'stage-released', releaseBody(shower, stage, person.id)).then(() => onReleased?.()),
            )
          }
        >
          {holds > 0 ? t('stage.hold', { count: holds }) : t('stage.release', { stage: label })}
        </button>
      )}
    </>
  );
}

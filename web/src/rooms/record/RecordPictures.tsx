import type { ShowerState } from '@careful-seam/core/log/state';
import { picturesMissing, picturesOf } from '@careful-seam/core/proof/shown/pictures';
import { elementName } from '@careful-seam/words/texts/names';
import { useTranslation } from 'react-i18next';
import { PictureStrip } from '../../shared/PictureStrip';

/** Pictures stage by stage, and what is covered without one. */
export function RecordPictures({ state }: { state: ShowerState }) {
  const { t } = useTranslation();
  const all = picturesOf(state);
  const stages = state.rules!.method.stages;
  const model = state.geometry!.model;
  const missing = stages
    .filter((s) => state.stages.get(s.key)?.release)
    .flatMap((s) => picturesMissing(state, s.key).map((m) => ({ stage: s, ...m })));
  if (all.length === 0 && missing.length === 0) return null;
  return (
    <section data-testid="record-pictures">
      <h2 className="font-bold text-lg">{t('record.pictures')}</h2>
      {[...stages, { key: null, label: t('record.picturesOfAll') }].map(({ key, label }) => {
        const here = all.filter((p) => p.stage === key);
        return here.length === 0 ? null : (
          <div key={key ?? ''}>
            <h3 className="text-soft text-sm">{label}</h3>
            <PictureStrip pictures={here} model={model} zone={state.created?.body.timeZone} onTakeBack={null} />
          </div>
        );
      })}
      {missing.map(({ stage, check, elements }) => (
        <p key={`${stage.key} ${check.id}`} className="text-hold text-sm">
          {t('record.pictureMissing', {
            stage: stage.label,
            check: check.label,
            where: elements.map((e) => elementName(t, model, e)).join(', '),
          })}
        </p>
      ))}
    </section>
  );
}

import { AMOUNTS, SIGNS, Symptom, SymptomPlace, WHENS } from '@careful-seam/core/log/callBodies';
import { edgeId } from '@careful-seam/core/shower/geometry/showerGeometry';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { isWall } from '@careful-seam/core/shower/geometry/wallFrame';
import { edgeLetters } from '@careful-seam/words/texts/names';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { Choice } from '../../ui/Choice';
import { TextField } from '../../ui/fields';
import { LengthField } from '../../ui/LengthField';
import { usePreferences } from '../../ui/preferences';
import { StainPlan } from './StainPlan';

/** Nobody looks farther from a shower for its water, mm. */
const FARTHEST_MM = 6000;

/** A place of another sort, to be moved from there; on a ceiling it is tapped, and on none before. */
function placeOn(model: ShowerModel, on: SymptomPlace['on']): SymptomPlace | null {
  const { geometry } = model;
  const edges = geometry.edges.map((e, k) => ({ e, id: edgeId(geometry, k) }));
  const wall = edges.find(({ e }) => isWall(e));
  const curb = edges.find(({ e }) => e.kind === 'curb' || e.kind === 'open') ?? wall;
  if (on === 'wall' && wall) return { on, edge: wall.id, alongMm: 300, heightMm: 100 };
  if (on === 'curb' && curb) return { on, edge: curb.id, alongMm: 0 };
  if (on === 'inside') return { on };
  return null;
}

/** A symptom while it is told: what nobody said is nothing yet, and never a guess. */
export const ToldSymptom = Symptom.extend({
  on: z.enum(['ceiling', 'wall', 'curb', 'inside']).nullable(),
  place: SymptomPlace.nullable(),
  when: Symptom.shape.when.nullable(),
  amount: Symptom.shape.amount.nullable(),
});
export type ToldSymptom = z.infer<typeof ToldSymptom>;

/** A symptom that nobody said anything of yet. */
export const NEW_SYMPTOM: ToldSymptom = { on: null, place: null, when: null, amount: null, signs: [] };

/** Where on the ceiling, on a wall or before the curb. */
function PlaceFields({
  model,
  place,
  onPlace,
}: {
  model: ShowerModel;
  place: SymptomPlace;
  onPlace: (place: SymptomPlace) => void;
}) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  if (place.on === 'inside') return null;
  if (place.on === 'ceiling')
    return (
      <div className="grid grid-cols-2 gap-2">
        <LengthField
          label={t('call.fromLeft')}
          unit={unit}
          mm={place.xMm}
          most={FARTHEST_MM}
          onMm={(xMm) => onPlace({ ...place, xMm })}
        />
        <LengthField
          label={t('call.fromFront')}
          unit={unit}
          mm={place.yMm}
          most={FARTHEST_MM}
          onMm={(yMm) => onPlace({ ...place, yMm })}
        />
      </div>
    );
  const letters = edgeLetters(model);
  const sides = model.geometry.edges.flatMap((e, k) => {
    const fits = place.on === 'wall' ? isWall(e) : e.kind === 'curb' || e.kind === 'open';
    const id = edgeId(model.geometry, k);
    return fits ? [{ key: id, label: letters.get(id) ?? t('call.opening') }] : [];
  });
  return (
    <>
      <Choice
        label={t(place.on === 'wall' ? 'call.behindWhich' : 'call.beforeWhich')}
        value={place.edge}
        options={sides}
        onChoose={(edge) => onPlace({ ...place, edge })}
      />
      <div className="grid grid-cols-2 gap-2">
        <LengthField
          label={t('call.along')}
          unit={unit}
          mm={place.alongMm}
          most={FARTHEST_MM}
          onMm={(alongMm) => onPlace({ ...place, alongMm })}
        />
        {place.on === 'wall' && (
          <LengthField
            label={t('call.height')}
            unit={unit}
            mm={place.heightMm}
            most={FARTHEST_MM}
            onMm={(heightMm) => onPlace({ ...place, heightMm })}
          />
        )}
      </div>
    </>
  );
}

/** What else is noticed. */
function Signs({ symptom, onSymptom }: { symptom: ToldSymptom; onSymptom: (symptom: ToldSymptom) => void }) {
  const { t } = useTranslation();
  return (
    <fieldset className="flex flex-col gap-1">
      <legend className="text-soft text-sm">{t('call.signs')}</legend>
      <div className="flex flex-wrap gap-1.5">
        {SIGNS.map((sign) => {
          const isTold = symptom.signs.includes(sign);
          return (
            <button
              key={sign}
              type="button"
              className="key grow px-2"
              aria-pressed={isTold}
              onClick={() =>
                onSymptom({
                  ...symptom,
                  signs: isTold ? symptom.signs.filter((s) => s !== sign) : [...symptom.signs, sign],
                })
              }
            >
              {t(`call.sign.${sign}`)}
            </button>
          );
        })}
      </div>
    </fieldset>
  );
}

/** Since when, and for how long the floor stays dark. */
function SinceAndDark({ symptom, onSymptom }: { symptom: ToldSymptom; onSymptom: (symptom: ToldSymptom) => void }) {
  const { t } = useTranslation();
  const { since: _since, darkHours: _dark, ...rest } = symptom;
  return (
    <div className="grid grid-cols-2 gap-2">
      <TextField
        label={t('call.since')}
        type="date"
        max={new Date().toISOString().slice(0, 10)}
        value={symptom.since ?? ''}
        onChange={({ target: { value } }) =>
          onSymptom({
            ...rest,
            ...(symptom.darkHours === undefined ? {} : { darkHours: symptom.darkHours }),
            ...(value === '' ? {} : { since: value }),
          })
        }
      />
      <TextField
        label={t('call.darkHours')}
        type="number"
        min="0"
        max="2000"
        value={symptom.darkHours ?? ''}
        onChange={({ target: { value } }) =>
          onSymptom({
            ...rest,
            ...(symptom.since === undefined ? {} : { since: symptom.since }),
            ...(value === '' ? {} : { darkHours: Math.min(2000, Math.max(0, Number(value))) }),
          })
        }
      />
    </div>
  );
}

/** What is told of water in one place: where, when, how much, since when, and what else is noticed. */
export function SymptomFields({
  model,
  symptom,
  onSymptom,
}: {
  model: ShowerModel;
  symptom: ToldSymptom;
  onSymptom: (symptom: ToldSymptom) => void;
}) {
  const { t } = useTranslation();
  const tell = (more: Partial<ToldSymptom>) => onSymptom({ ...symptom, ...more });
  return (
    <div className="grid grid-cols-2 gap-4 max-lg:grid-cols-1">
      <div className="flex flex-col gap-2">
        <Choice
          label={t('call.where')}
          value={symptom.on}
          options={(['ceiling', 'wall', 'curb', 'inside'] as const).map((key) => ({ key, label: t(`call.on.${key}`) }))}
          onChoose={(on) => tell({ on, place: placeOn(model, on) })}
        />
        <div className="h-72">
          <StainPlan
            model={model}
            places={symptom.place ? [symptom.place] : []}
            {...(symptom.on === 'ceiling' || symptom.on === null
              ? { onTap: (xMm, yMm) => tell({ on: 'ceiling', place: { on: 'ceiling', xMm, yMm } }) }
              : {})}
          />
        </div>
        {symptom.place ? (
          <PlaceFields model={model} place={symptom.place} onPlace={(place) => tell({ place })} />
        ) : (
          <p className="text-soft">{t('call.tapStain')}</p>
        )}
      </div>
      <div className="flex flex-col gap-3">
        <Choice
          label={t('call.when')}
          value={symptom.when}
          options={WHENS.map((key) => ({ key, label: t(`call.whens.${key}`) }))}
          onChoose={(when) => tell({ when })}
        />
        <Choice
          label={t('call.amount')}
          value={symptom.amount}
          options={AMOUNTS.map((key) => ({ key, label: t(`call.amounts.${key}`) }))}
          onChoose={(amount) => tell({ amount })}
        />
        <Signs symptom={symptom} onSymptom={onSymptom} />
        <SinceAndDark symptom={symptom} onSymptom={onSymptom} />
      </div>
    </div>
  );
}

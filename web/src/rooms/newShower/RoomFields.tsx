import { ROOM_SHAPES } from '@careful-seam/core/shower/geometry/roomShapes';
import { parseLength, showLength } from '@careful-seam/core/units/length';
import { useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Choice } from '../../ui/Choice';
import { usePreferences } from '../../ui/preferences';
import type { Drawn } from './drawing';
import { Labelled, LengthGroup, type NewForm, useSideName } from './fields';
import { TapeFields } from './TapeFields';
import { EDGE_KINDS, type EdgeKind, type LengthName, lengthsOf, movedParts, sizesFor, type Typed } from './typed';

/** Shapes that are drawn from a few lengths, and any other from the tape. */
const SHAPES: readonly Typed['shape'][] = [...ROOM_SHAPES, 'tape'];
/** Lengths of the room, by their shape. */
const ROOM: readonly LengthName[] = ['width', 'depth', 'first', 'second'];
/** Heights and widths of what stands on it. */
const STANDING: readonly LengthName[] = ['wallHeight', 'curbHeight', 'curbWidth', 'outside', 'halfHeight', 'halfThick'];

/** What each side is: wall, half wall, curb, open. */
function SideKinds({ drawn }: { drawn: Drawn }) {
  const { t } = useTranslation();
  const { setValue, watch } = useFormContext<NewForm>();
  const sideName = useSideName(drawn);
  const kinds = watch('kinds');
  return (
    <fieldset className="border-hair border-t pt-1">
      <legend className="sr-only">{t('new.sides')}</legend>
      <div className="grid grid-cols-3 gap-2 max-sm:grid-cols-2">
        {drawn.sides.map((side) => (
          <Labelled key={side.name} text={sideName(side.name)}>
            <select
              className="field px-1 text-base"
              value={side.kind}
              onChange={(e) => setValue('kinds', { ...kinds, [side.name]: e.target.value as EdgeKind })}
            >
              {EDGE_KINDS.map((kind) => (
                <option key={kind} value={kind}>
                  {t(`new.kind.${kind}`)}
                </option>
              ))}
            </select>
          </Labelled>
        ))}
      </div>
    </fieldset>
  );
}

/** Where the drain is, and whether it is a line. */
function DrainFields({ drawn }: { drawn: Drawn }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { setValue, watch } = useFormContext<NewForm>();
  const typed = watch();
  const centre = () => {
    const half = (name: LengthName) => {
      const read = parseLength(typed[name], unit);
      return read.ok ? showLength(read.value.mm / 2, unit).replace(/ (in|mm)$/, '') : '';
    };
    setValue('drainLeft', half('width'));
    setValue('drainFront', half('depth'));
  };
  const line = typed.drainKind === 'line';
  const names: LengthName[] = ['drainLeft', 'drainFront', ...(line ? (['drainLong', 'drainWide'] as const) : [])];
  return (
    <>
      <LengthGroup label={t('new.group.drain')} names={names} drawn={drawn}>
        {typed.shape !== 'tape' && !line && (
          <button type="button" className="key col-span-2 self-end px-1" onClick={centre}>
            {t('new.centre')}
          </button>
        )}
      </LengthGroup>
      <div className="grid grid-cols-2 gap-2">
        <Choice
          label={t('new.drainKind')}
          value={typed.drainKind}
          options={(['point', 'line'] as const).map((key) => ({ key, label: t(`new.drain.${key}`) }))}
          onChoose={(v) => setValue('drainKind', v)}
        />
        {line && (
          <label className="flex min-h-12 items-center gap-2 self-end text-base">
            <input
              type="checkbox"
              className="size-6"
              checked={typed.turned}
              onChange={(e) => setValue('turned', e.target.checked)}
            />
            {t('new.turned')}
          </label>
        )}
      </div>
    </>
  );
}

/** The room: its shape with a few numbers, or its sides from the tape; what stands on them; the drain. */
export function RoomFields({ drawn }: { drawn: Drawn }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { setValue, watch } = useFormContext<NewForm>();
  const typed = watch();
  const needed = new Set(lengthsOf({ ...typed, kinds: Object.fromEntries(drawn.sides.map((s) => [s.name, s.kind])) }));
  const choose = (shape: Typed['shape']) => {
    for (const [name, value] of Object.entries(sizesFor(typed, shape, unit))) setValue(name as LengthName, value);
    const { niches, benches, pipes } = movedParts(typed, shape);
    setValue('niches', niches);
    setValue('benches', benches);
    setValue('pipes', pipes);
    setValue('kinds', {});
    setValue('outsideWalls', []);
    setValue('shape', shape);
  };
  return (
    <>
      <Choice
        label={t('new.shape')}
        value={typed.shape}
        options={SHAPES.map((key) => ({ key, label: t(`new.${key}`) }))}
        onChoose={choose}
      />
      {typed.shape === 'tape' ? (
        <TapeFields drawn={drawn} />
      ) : (
        <LengthGroup label={t('new.group.floor')} names={ROOM.filter((n) => needed.has(n))} drawn={drawn} />
      )}
      <SideKinds drawn={drawn} />
      <LengthGroup label={t('new.group.walls')} names={STANDING.filter((n) => needed.has(n))} drawn={drawn} />
      <DrainFields drawn={drawn} />
    </>
  );
}

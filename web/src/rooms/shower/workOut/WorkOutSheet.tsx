import type { ShowerState } from '@careful-seam/core/log/state';
import { showLength } from '@careful-seam/core/units/length';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useStore } from '../../../tablet/store';
import { Choice } from '../../../ui/Choice';
import { usePreferences } from '../../../ui/preferences';
import { Sheet } from '../../../ui/Sheet';
import { SumFields, SumResult } from '../../../ui/SumFields';
import { readLengths, readMany } from './lengths';
import { sumAt } from './sumAt';
import {
  benchSum,
  curbGap,
  curbSum,
  drawnSpanMm,
  edgeLengthMm,
  nichePlace,
  nicheSum,
  type Sum,
  studsAlong,
} from './sums';

/** The part whose sum is worked out. */
interface Props {
  /** The shower that it is written to. */
  showerId: string;
  /** The shower as it stands now. */
  state: ShowerState;
  /** Id of the seam, corner, opening, drain or face. */
  element: string;
  /** Told when it is done with, kept or not. */
  onClose: () => void;
}
/** What is typed of a niche. */
const NICHE_NAMES = [
  'tileHeight',
  'tileWidth',
  'joint',
  'firstCourse',
  'uprightJoint',
  'sill',
  'height',
  'width',
  'along',
  'firstStud',
  'studs',
] as const;

/** How a curb is cut between two walls. */
function CurbSum({ state, id, children }: { state: ShowerState; id: string; children: (sum: Sum) => React.ReactNode }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const [text, setText] = useState('');
  const [gap, setGap] = useState(curbGap(state));
  const { geometry } = state.geometry!.model;
  const edge = geometry.edges.findIndex((e, i) => (e.id ?? `edge-${i}`) === id);
  const read = readMany(text, unit);
  return (
    <>
      <label className="text-sm">
        <span className="text-soft">
          {t('sum.curbDistances', { drawn: showLength(edgeLengthMm(geometry, edge), unit) })}
        </span>
        <input className="field font-bold text-lg" value={text} onChange={(e) => setText(e.target.value)} />
      </label>
      <Choice
        label={t('sum.curbGap')}
        value={gap}
        options={(['each-end', 'in-all'] as const).map((key) => ({ key, label: t(`sum.gap.${key}`) }))}
        onChoose={setGap}
      />
      {text.trim() !== '' && children('problem' in read ? read : curbSum(t, unit, read, gap))}
    </>
  );
}

/** How a niche sits in the tile. */
function NicheSum({
  state,
  id,
  children,
}: {
  state: ShowerState;
  id: string;
  children: (sum: Sum) => React.ReactNode;
}) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { geometry } = state.geometry!.model;
  const niche = geometry.niches!.find((n) => n.id === id)!;
  const inch = (n: string, metric: string) => (unit === 'in' ? n : metric);
  const [typed, setTyped] = useState<Record<(typeof NICHE_NAMES)[number], string>>({
    tileHeight: inch('12', '300'),
    tileWidth: inch('24', '600'),
    joint: inch('1/8', '3'),
    firstCourse: '0',
    uprightJoint: '0',
    ...nichePlace(niche, unit),
    firstStud: inch('16', '400'),
    studs: inch('16', '400'),
  });
  const [shelf, setShelf] = useState('');
  const [pipes, setPipes] = useState('');
  const [fixedSize, setFixedSize] = useState(false);
  const read = readLengths(typed, unit);
  const more = [readMany(shelf, unit), readMany(pipes, unit)] as const;
  const bad = 'problem' in read ? read : more.find((m) => 'problem' in m);
  const wallMm = edgeLengthMm(geometry, niche.edge);
  const sum = (): Sum => {
    if (bad) return bad as { problem: string };
    const { mm } = read as { mm: Record<(typeof NICHE_NAMES)[number], number> };
    return nicheSum(t, unit, {
      tileHeightMm: mm.tileHeight,
      tileWidthMm: mm.tileWidth,
      jointMm: mm.joint,
      levelJointMm: mm.firstCourse,
      uprightJointMm: mm.uprightJoint,
      sillMm: mm.sill,
      heightMm: mm.height,
      fixedSize,
      widthMm: mm.width,
      alongMm: mm.along,
      studsAtMm: studsAlong(wallMm, mm.firstStud, mm.studs),
      studMm: 38.1,
      ...((more[0] as number[]).length > 0 ? { shelfMm: (more[0] as number[])[0]! } : {}),
      pipesAtMm: more[1] as number[],
    });
  };
  return (
    <>
      <Choice
        label={t('sum.nicheSize')}
        value={fixedSize ? 'bought' : 'made'}
        options={(['made', 'bought'] as const).map((key) => ({
          key,
          label: t(key === 'made' ? 'sum.nicheMade' : 'sum.nicheBought'),
        }))}
        onChoose={(key) => setFixedSize(key === 'bought')}
      />
      <SumFields names={NICHE_NAMES} label={(n) => t(`sum.niche.${n}`)} typed={typed} onType={setTyped} />
      <SumFields
        names={['shelf', 'pipes'] as const}
        label={(n) => t(`sum.niche.${n}`)}
        typed={{ shelf, pipes }}
        onType={(both) => {
          setShelf(both.shelf);
          setPipes(both.pipes);
        }}
      />
      {children(sum())}
    </>
  );
}

/** Whether a bench spans, by its layers. */
function BenchSum({
  state,
  id,
  children,
}: {
  state: ShowerState;
  id: string;
  children: (sum: Sum) => React.ReactNode;
}) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const bench = state.geometry!.model.geometry.benches!.find((b) => b.id === id)!;
  const [typed, setTyped] = useState({ span: showLength(drawnSpanMm(bench), unit).replace(/ (in|mm)$/, '') });
  const [layers, setLayers] = useState(bench.layers ?? 1);
  const read = readLengths(typed, unit);
  return (
    <>
      <SumFields names={['span'] as const} label={() => t('sum.benchSpan')} typed={typed} onType={setTyped} />
      <Choice
        label={t('sum.benchHas')}
        value={layers}
        options={[1, 2, 3].map((key) => ({ key, label: String(key) }))}
        onChoose={setLayers}
      />
      {children('problem' in read ? read : benchSum(t, unit, read.mm.span, layers))}
    </>
  );
}

/** The sum of each kind of part. */
const SUMS = { curb: CurbSum, niche: NicheSum, bench: BenchSum };

/** The arithmetic of one part of the shower, worked out where it stands; kept as a note of the record when wanted. */
export function WorkOutSheet({ showerId, state, element, onClose }: Props) {
  const { t } = useTranslation();
  const write = useStore((s) => s.write);
  const { kind, id } = sumAt(element)!;
  const SumOf = SUMS[kind];
  const keep = async (lines: readonly string[]) => {
    await write(showerId, 'note', { words: lines.join(' '), place: { element } });
    onClose();
  };
  return (
    <Sheet title={t(`sum.title.${kind}`)} onClose={onClose}>
      <p className="text-soft text-sm">{t(`sum.what.${kind}`)}</p>
      <SumOf state={state} id={id}>
        {(sum) => (
          <>
            <SumResult lines={'lines' in sum ? sum.lines : []} problem={'problem' in sum ? sum.problem : null} />
            {'lines' in sum && (
              <button type="button" className="key key-main" onClick={() => void keep(sum.lines)}>
                {t('sum.keep')}
              </button>
            )}
          </>
        )}
      </SumOf>
    </Sheet>
  );
}

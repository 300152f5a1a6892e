import { verdictInput } from '@careful-seam/core/checks/floodReadings';
import { waterProof } from '@careful-seam/core/checks/waterProof';
import type { FloodTest } from '@careful-seam/core/log/floodTest';
import type { ShowerState } from '@careful-seam/core/log/state';
import { floodCheckOf } from '@careful-seam/core/rules/ruleBook';
import { showLength } from '@careful-seam/core/units/length';
import { floodVerdict } from '@careful-seam/core/water/floodVerdict';
import { waterIn } from '@careful-seam/core/water/waterIn';
import { floodChart } from '@careful-seam/words/sentences/floodChart';
import {
  airWords,
  floodAdvice,
  floodCondition,
  floodSentence,
  shortfallSentences,
  smallLength,
  volumeWords,
  weightWords,
} from '@careful-seam/words/sentences/floodSentences';
import type { ShownUnit } from '@careful-seam/words/sentences/sentences';
import type { Words } from '@careful-seam/words/texts/language';
import { HAIR, HOLD, heading, INK, line, MARGIN, need, SOFT, WATER } from './recordSheet';

/** A document that is painted. */
type Pdf = PDFKit.PDFDocument;
/** The colour of the air in the chart. */
const AIR = '#8a5a00';

/** What the flood is painted with. */
export interface FloodPaper {
  /** The document that is painted. */
  doc: Pdf;
  /** Words in the language of the paper. */
  t: Words;
  /** The shower as it stands. */
  state: ShowerState;
  /** In what lengths are told. */
  unit: ShownUnit;
  /** Time zone of the site. */
  zone: string;
  /** A moment in the time of the site, in words. */
  when: (iso: string) => string;
}

/** The chart as vectors: drawn by the same library and the same options as on the screen. */
async function paintChart(
  { doc, t, unit }: FloodPaper,
  input: NonNullable<ReturnType<typeof verdictInput>>,
  verdict: Parameters<typeof floodChart>[2],
): Promise<void> {
  const [echarts, charts, components, renderers, { default: svgToPdf }] = await Promise.all([
    import('echarts/core'),
    import('echarts/charts'),
    import('echarts/components'),
    import('echarts/renderers'),
    import('svg-to-pdfkit'),
  ]);
  echarts.use([charts.LineChart, components.GridComponent, components.LegendComponent, renderers.SVGRenderer]);
  const [width, height] = [doc.page.width - 2 * MARGIN, 230];
  const chart = echarts.init(null, null, { renderer: 'svg', ssr: true, width: width * 1.4, height: height * 1.4 });
  const pens = { ink: INK, soft: SOFT, hair: HAIR, water: WATER, air: AIR, hold: HOLD, font: 'text', fontSize: 12 };
  chart.setOption(floodChart(t, input, verdict, pens, unit));
  const svg = chart.renderToSVGString();
  chart.dispose();
  need(doc, height + 10);
  const top = doc.y;
  svgToPdf(doc, svg, MARGIN, top, { width, height, preserveAspectRatio: 'xMinYMin meet', fontCallback: () => 'text' });
  doc.x = MARGIN;
  doc.y = top + height + 8;
  doc.font('text').fontSize(9).fillColor(INK).undash().strokeColor(INK);
}

/** How it was prepared and filled. */
function paintStart({ doc, t, state, unit, when }: FloodPaper, test: FloodTest): void {
  const model = state.geometry!.model;
  const water = waterIn(model, test.filledToMm);
  line(
    doc,
    t('record.floodStart', {
      level: showLength(test.filledToMm, unit),
      threshold: showLength(water?.depthAtThresholdMm ?? 0, unit),
      name: test.by,
      at: when(test.startedAt),
      hours: test.plannedHours,
    }),
  );
  if (water) {
    const both = `${volumeWords(water.volumeL, unit)} (${volumeWords(water.volumeL, unit === 'in' ? 'mm' : 'in')})`;
    line(doc, t('record.floodWater', { volume: both, weight: weightWords(water.massKg, unit) }));
  }
  line(
    doc,
    test.smallestLeakMmPerDay === null
      ? t('record.floodUnset')
      : t('record.floodSmallest', { smallest: smallLength(test.smallestLeakMmPerDay, unit) }),
  );
}

/** What was seen of moisture. */
function paintLooks({ doc, t, state, when }: FloodPaper, test: FloodTest): void {
  const check = floodCheckOf(state.rules!.method)!.check;
  const events = test.events.map(
    (e) =>
      `${t(`flood.event.${e.kind}`)} (${when(new Date(test.startMs + e.atHours * 3_600_000).toISOString())})${e.words ? `: ${e.words}` : ''}`,
  );
  if (events.length > 0) line(doc, t('record.floodEvents', { list: events.join('; ') }));
  for (const look of test.looks)
    line(
      doc,
      t('record.floodLook', {
        where: check.places.find((p) => p.id === look.where)?.label ?? look.where,
        moment: look.moment ? t(`flood.moment.${look.moment}`) : '',
        answer: t(`flood.answer.${look.answer}`),
        name: look.by,
        at: when(look.at),
        words: look.words ? `: ${look.words}` : '',
      }),
      look.answer === 'wet' ? HOLD : SOFT,
    );
}

/** What the water proved. */
function paintProved({ doc, t, state, unit }: FloodPaper, test: FloodTest): void {
  if (test.provedBelowMm === null) return;
  const model = state.geometry!.model;
  const found = waterProof(model, test.provedBelowMm);
  const dryMm = found.above.reduce((sum, a) => sum + a.dryMm, 0);
  line(
    doc,
    t('record.floodProved', {
      below: showLength(test.provedBelowMm, unit),
      wet: showLength(found.wetMm, unit),
      count: found.under.length,
    }),
  );
  line(doc, t('record.floodRest', { dry: showLength(dryMm, unit), count: found.above.length }), SOFT);
}

/** One test. */
async function paintTest(paper: FloodPaper, test: FloodTest): Promise<void> {
  const { doc, t, state, unit, zone, when } = paper;
  const check = floodCheckOf(state.rules!.method)!.check;
  paintStart(paper, test);
  const input = verdictInput(test, check);
  const judged = input && floodVerdict(input);
  if (input && judged?.ok) {
    const verdict = judged.value;
    const shown = test.end?.verdict ?? verdict.verdict;
    const show = (mm: number | null) => (mm === null ? '?' : smallLength(mm, unit));
    doc.font('strong');
    line(
      doc,
      `${t(`flood.verdict.${shown}`)}. ${floodSentence(t, { model: state.geometry!.model, test, check, verdict, unit, zone })}`,
      shown === 'fail' ? HOLD : INK,
    );
    doc.font('text');
    if (verdict.netLossMmPerDay !== null)
      line(
        doc,
        t('record.floodNet', {
          net: show(verdict.netLossMmPerDay),
          low: show(verdict.lowMmPerDay),
          high: show(verdict.highMmPerDay),
          bound: show(verdict.failBoundMmPerDay),
        }),
      );
    line(doc, `${airWords(t, verdict, unit)} ${floodCondition(t, verdict)}`.trim(), SOFT);
    if (shown === 'undecided') for (const advice of floodAdvice(t, verdict)) line(doc, advice, SOFT);
    if (input.readings.length > 1) await paintChart(paper, input, verdict);
  }
  if (test.end) {
    line(
      doc,
      t('record.floodEnd', {
        name: test.end.by,
        at: when(test.end.at),
        verdict: t(`flood.verdict.${test.end.verdict}`),
      }),
    );
    if (test.end.stated !== test.end.verdict)
      line(doc, t('record.floodJudgedAnew', { stated: t(`flood.verdict.${test.end.stated}`) }), HOLD);
    if (test.end.words) line(doc, test.end.words, SOFT);
    const stageLabel = (key: string) => state.rules!.method.stages.find((s) => s.key === key)?.label ?? key;
    for (const words of shortfallSentences(t, test.end.short, check, stageLabel, unit)) line(doc, words, HOLD);
  } else if (!test.voided) line(doc, t('record.floodRunning'), HOLD);
  if (test.voided) line(doc, t(`flood.voided.${test.voided.cause}`), HOLD);
  paintProved(paper, test);
  paintLooks(paper, test);
}

/** Every flood test of the shower, the last one first, with its chart. */
export async function paintFloods(paper: FloodPaper): Promise<void> {
  const { doc, t, state } = paper;
  const tests = [...(state.flood ? [state.flood] : []), ...[...state.earlierFloods].reverse()];
  if (tests.length === 0 || !state.geometry || !state.rules || !floodCheckOf(state.rules.method)) return;
  heading(doc, t('record.flood'));
  for (const test of tests) {
    await paintTest(paper, test);
    doc.moveDown(0.5);
  }
}

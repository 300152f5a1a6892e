import { RECORD_FORMAT_VERSION, type ShowerRecord } from '@careful-seam/contract/record/record';
import { finishedAtMs } from '@careful-seam/core/checks/cureOfShower';
import { waterProof } from '@careful-seam/core/checks/waterProof';
import { correctionsTold } from '@careful-seam/core/log/mistyped';
import { allEvidence, type Evidence, type ShowerState } from '@careful-seam/core/log/state';
import { blockersOf } from '@careful-seam/core/proof/holds/release';
import { picturesMissing, picturesOf } from '@careful-seam/core/proof/shown/pictures';
import { buildLedger, type Ledger } from '@careful-seam/core/proof/shown/seamLine';
import { notInspected, waysOf } from '@careful-seam/core/proof/shown/waysOf';
import { linesOf } from '@careful-seam/core/rules/combineMethods';
import { productsOf } from '@careful-seam/core/rules/productsOf';
import { waterIn } from '@careful-seam/core/water/waterIn';
import type { LoadedShower } from '../showers/loadShower';
import { membraneRecord } from './recordMembrane';

/** The ledger of a record covers every stage that was begun. */
export function recordLedger(state: ShowerState): Ledger {
  const begun = [...state.stages].filter(([, s]) => s.begun).map(([key]) => key);
  return buildLedger(state, begun);
}

/** The products in use, and each two of them with what is known of their standing together. */
function productsIn(rules: NonNullable<ShowerState['rules']>) {
  const { pairs } = productsOf(rules);
  return {
    products: linesOf(rules.book, rules.pinned).map(({ id, name, maker, kind, readFrom }) => ({
      id,
      name,
      maker,
      kind,
      readFrom,
    })),
    pairs: pairs.map(({ a, b, together, paper }) => ({ a: a.id, b: b.id, together, paper })),
  };
}

const counts = (e: Evidence) =>
  (e.voided ? 'voided' : e.lookAgain ? 'look-again' : 'counts') as 'counts' | 'voided' | 'look-again';

const shared = (e: Evidence) => ({
  entry: e.entry,
  stage: e.stage,
  check: e.check,
  element: e.element,
  side: e.side,
  by: e.author,
  at: e.observedAt,
  counts: counts(e),
});

function stagesOf(state: ShowerState): ShowerRecord['stages'] {
  return (state.rules?.method.stages ?? [])
    .filter((s) => state.stages.get(s.key)?.begun)
    .map((s) => {
      const { word, release, because, beside, work } = state.stages.get(s.key)!;
      return {
        key: s.key,
        word,
        releasedBy: release?.by ?? null,
        releasedAt: release?.observedAt ?? null,
        missing: blockersOf(state, s.key).length,
        because: because?.cause ?? null,
        beside: beside.map(({ check, element, verdict }) => ({ check, element, verdict })),
        imported: release?.imported ?? false,
        work: work.map((e) => ({
          who: e.body.who,
          finishedAt: new Date(finishedAtMs(state, e)).toISOString(),
          toldAt: e.observedAt,
          by: e.author.name,
        })),
      };
    });
}

function defectsOf(state: ShowerState): ShowerRecord['defects'] {
  return [...state.defects.values()].map((d) => ({
    id: d.id,
    stage: d.stage,
    kind: d.kind,
    check: d.check,
    severity: d.severity,
    words: d.words,
    element: d.places[0]?.element ?? '',
    fromMm: d.places[0]?.fromMm ?? null,
    toMm: d.places[0]?.toMm ?? null,
    places: d.places.map(({ element, fromMm, toMm }) => ({ element, fromMm: fromMm ?? null, toMm: toMm ?? null })),
    valueMm: d.valueMm,
    by: d.author,
    at: d.observedAt,
    redoneAt: d.redoneAt,
    closedAt: d.closedAt,
    cause: d.cause ? { family: d.cause.family, confidence: d.cause.confidence, words: d.cause.words ?? '' } : null,
    escape: d.escape ? { family: d.escape.family, words: d.escape.words ?? '' } : null,
    answers: d.answers.map((a) => ({ words: a.words, by: a.author, at: a.observedAt })),
    pictures: [...d.photos, ...d.answers.flatMap((a) => a.photos), ...d.photosAfter].map((p) => p.hash),
  }));
}

function floodsOf(state: ShowerState): ShowerRecord['floods'] {
  const model = state.geometry?.model;
  if (!model) return [];
  return [...state.earlierFloods, ...(state.flood ? [state.flood] : [])].map((test) => ({
    entry: test.entry,
    startedAt: test.startedAt,
    by: test.by,
    filledToMm: test.filledToMm,
    lowestMm: test.waterLineMm,
    plannedHours: test.plannedHours,
    smallestLeakMmPerDay: test.smallestLeakMmPerDay,
    volumeL: waterIn(model, test.filledToMm)?.volumeL ?? null,
    running: test.running,
    verdict: test.end?.verdict ?? null,
    stated: test.end?.stated ?? null,
    figures: test.end?.figures ?? null,
    short: test.end?.short ?? [],
    voided: test.voided,
    provedBelowMm: test.provedBelowMm,
    provedMm: test.provedBelowMm === null ? 0 : waterProof(model, test.provedBelowMm).wetMm,
  }));
}

/** How each check stands, place by place. */
function verdictsOf(ledger: Ledger): ShowerRecord['verdicts'] {
  return ledger.judgements.map((j) => ({
    stage: j.requirement.stage.key,
    check: j.requirement.check.id,
    element: j.requirement.element,
    side: j.requirement.side,
    verdict: j.verdict,
    satisfied: j.satisfied,
    waitsForManager: j.waitsForManager,
    lowestMm: j.lowestMm,
  }));
}

/** What was built again, where and why. */
function redosOf(state: ShowerState): ShowerRecord['redos'] {
  return state.redos.map((r) => ({
    entry: r.id,
    stage: r.body.stage,
    places: r.body.places.map(({ element, fromMm, toMm }) => ({
      element,
      fromMm: fromMm ?? null,
      toMm: toMm ?? null,
    })),
    reason: r.body.reason,
    by: r.author.name,
    at: r.observedAt,
  }));
}

/** What a manager was asked to accept, and what came of it. */
function deviationsOf(state: ShowerState): ShowerRecord['deviations'] {
  return [...state.deviations.values()].map((d) => ({
    stage: d.asked.stage,
    check: d.asked.check,
    element: d.asked.place.element,
    verdict: d.asked.verdict,
    reason: d.asked.reason,
    askedBy: d.askedByName,
    askedAt: d.askedAt,
    accepted: d.decision?.accepted ?? null,
    decidedBy: d.decision?.by ?? null,
    decidedAt: d.decision?.at ?? null,
    decisionReason: d.decision?.reason ?? null,
    ended: d.ended,
  }));
}

/** Pictures of what was sound, and what is covered of which none shows anything. */
function picturesIn(state: ShowerState): Pick<ShowerRecord, 'pictures' | 'picturesMissing'> {
  const covered = [...state.stages].flatMap(([key, s]) => (s.release ? [key] : []));
  return {
    pictures: picturesOf(state)
      .filter((p) => p.of === 'sound')
      .map(({ photo, stage, elements, words, by, observedAt, stands }) => ({
        hash: photo.hash,
        stage,
        elements,
        words,
        by,
        at: observedAt,
        stands,
      })),
    picturesMissing: covered.flatMap((stage) =>
      picturesMissing(state, stage).map(({ check, elements }) => ({ stage, check: check.id, elements })),
    ),
  };
}

/** The record of a shower as data: everything the PDF prints, and every entry behind it. */
export function buildRecord({ row, rows, entries, state }: LoadedShower, now: Date): ShowerRecord {
  const ledger = recordLedger(state);
  const evidence = allEvidence(state);
  const seams = new Map(state.geometry?.model.seams.map((s) => [s.id, s]));
  return {
    format: 'careful-seam-record',
    formatVersion: RECORD_FORMAT_VERSION,
    madeAt: now.toISOString(),
    shower: {
      id: row.id,
      name: row.name,
      job: row.job,
      crewId: row.crewId,
      timeZone: state.created?.body.timeZone ?? 'UTC',
    },
    head: { seq: row.headSeq, hash: row.headHash },
    rules: state.rules && {
      id: state.rules.book.id,
      version: state.rules.book.version,
      method: state.rules.method.key,
      parts: { ...state.rules.pinned.parts },
      variants: [...(state.rules.pinned.variants ?? [])],
      ...productsIn(state.rules),
    },
    notInspected: notInspected(state),
    notes: state.notes.map((n) => ({
      entry: n.id,
      element: n.body.place?.element ?? null,
      words: n.body.words,
      by: n.author.name,
      at: n.observedAt,
    })),
    corrected: correctionsTold(entries),
    ways: waysOf(state),
    geometry: state.geometry && { version: state.geometry.version, dimensions: state.geometry.model.geometry },
    figures: ledger.figures,
    stages: stagesOf(state),
    seams: ledger.lines.map((l) => ({
      id: l.seam,
      kind: seams.get(l.seam)!.kind,
      lengthMm: seams.get(l.seam)!.lengthMm,
      pieces: l.pieces,
      ticksMm: l.ticksMm,
    })),
    verdicts: verdictsOf(ledger),
    ...picturesIn(state),
    readings: evidence
      .filter((e) => e.kind === 'reading')
      .map((e) => ({ ...shared(e), atMm: e.atMm, valueMm: e.valueMm!, together: e.together })),
    looks: evidence
      .filter((e) => e.kind === 'look')
      .map((e) => ({
        ...shared(e),
        ...e.stretch,
        answer: e.answer!,
        reason: e.reason,
        number: e.number,
        shownBy: e.shownBy,
      })),
    defects: defectsOf(state),
    floods: floodsOf(state),
    ...membraneRecord(state),
    redos: redosOf(state),
    notCounted: state.orphans,
    deviations: deviationsOf(state),
    signatures: state.signed.map((s) => ({
      name: s.body.name,
      by: s.author.name,
      at: s.observedAt,
      ledgerHash: s.body.ledgerHash,
      imported: state.arrivals.get(s.id)?.imported ?? false,
    })),
    deference: state.rules?.book.deference ?? [],
    cautions: (state.rules?.method.stages ?? []).flatMap((s) =>
      s.caution && state.stages.get(s.key)?.begun ? [s.caution] : [],
    ),
    entries: rows.map((r) => ({
      text: r.text,
      hash: r.hash,
      ledgerSeq: r.ledgerSeq,
      ledgerHash: r.ledgerHash,
      prevLedgerHash: r.prevLedgerHash,
      receivedAt: r.receivedAt.toISOString(),
      skewMs: r.skewMs,
    })),
  };
}

import { requirementsOf } from '../checks/requirements';
import type { Entry } from '../log/entry';
import type { Place } from '../log/places';
import { combineMethods, type Pinned } from '../rules/combineMethods';
import type { Method, RuleBook } from '../rules/ruleBook';
import { type ShowerModel, showerModel } from '../shower/geometry/showerModel';
import { type FloodVerdict, floodVerdict } from '../water/floodVerdict';
import type { FloodVerdictInput } from '../water/floodVerdictInput';

/**
 * A second judge of what stands: slow, plain, written from the page on records and from the decisions 40 to 43, and not from
 * the fold. It goes through the entries from the first to the last, counts millimetre by millimetre, and answers with one
 * word for each stage. It knows the checks of `tinyBook`: looked, measured, a wait without air, a flood by logger.
 */
type Word = 'open' | 'held' | 'released' | 'contested';
type Verdict = 'pass' | 'fail' | 'undecided' | 'unseen';
type Point = readonly number[];

const HOUR = 3_600_000;
const RANK = { stop: 0, fix: 1, note: 2 } as const;
type Severity = keyof typeof RANK;

interface Proof {
  seq: number;
  kind: 'look' | 'reading';
  stage: string;
  check: string;
  element: string;
  from: number;
  to: number;
  at: number;
  value: number;
  answer: string;
  waits: boolean;
  gone: boolean;
  holes: [number, number][];
  place: Place;
  size: number[] | null;
}
interface Bug {
  seq: number;
  stage: string;
  check: string | null;
  places: Place[];
  /** As they are drawn: a reading's defect is drawn as far as the reading speaks. */
  drawn?: Place[];
  severity: Severity;
  open: boolean;
}
interface Ask {
  by: string;
  body: Extract<Entry, { kind: 'deviation-asked' }>['body'];
  low: number;
  high: number;
  bad: boolean[];
  yes: boolean | null;
  ended: boolean;
  wait: number;
  water: string;
}
interface Let {
  seq: number;
  blocked: string[];
  upheld: Block[] | null;
}
interface Block {
  name: string;
  verdict: Verdict | null;
  low: number;
  high: number;
  water: string;
}
interface Basin {
  start: number;
  line: number;
  filled: number;
  water: number[];
  pan: number[];
  minutes: number[];
  seriesHours: number;
  looks: { where: string; moment: string; answer: string; atMs: number }[];
  running: boolean;
  void: boolean;
  missing: boolean;
  missingStages: string[];
  verdict: Verdict | null;
  /** What speaks against it, as JSON: its upper bound, its loss where it fails, and all that it lacks. */
  shown: Record<string, number>;
}
interface Req {
  stage: string;
  order: number;
  check: Method['stages'][number]['checks'][number];
  element: string;
  length: number;
  isLine: boolean;
}

/** Verdicts on readings are numbers, and not what is judged here: worked out once for the same readings. */
const known = new Map<string, FloodVerdict | null>();
function byReadings(input: FloodVerdictInput): FloodVerdict | null {
  const key = JSON.stringify(input);
  if (!known.has(key)) {
    const found = floodVerdict(input);
    known.set(key, found.ok ? found.value : null);
  }
  return known.get(key)!;
}

const role = (e: Entry): string => e.author.role ?? 'inspector';
const MAY: Record<string, string[]> = {
  'crew-lead': ['work-done', 'look-requested', 'photo', 'defect-answered', 'deviation-asked', 'note', 'correction'],
};
const BUILDERS = ['work-done', 'look-requested', 'defect-answered'];
function mayWriteIt(e: Entry): boolean {
  if (role(e) === 'manager') return true;
  if (role(e) === 'crew-lead') return MAY['crew-lead']!.includes(e.kind);
  return e.kind !== 'deviation-decided' && !BUILDERS.includes(e.kind);
}

/** Corrections: the last allowed one that stands takes its target's place; a taken-back one gives it back. */
function corrected(entries: readonly Entry[]): { list: Entry[]; changedAt: Map<string, string> } {
  const changedAt = new Map<string, string>();
  const on = (id: string) => entries.filter((e) => e.kind === 'correction' && e.body.target === id);
  const allowed = (target: Entry, c: Entry): boolean => {
    if (role(c) === 'manager') return true;
    if (c.author.id !== target.author.id) return false;
    if (target.kind !== 'defect-found' || c.kind !== 'correction') return true;
    if (Number(c.orderAt.slice(0, 15)) - Number(target.orderAt.slice(0, 15)) <= 600_000) return true;
    const now = target.body.severity;
    if (c.body.action === 'withdraw') return now === 'note';
    return RANK[(c.body.body as { severity: Severity }).severity] <= RANK[now];
  };
  const now = (e: Entry): Entry | null => {
    let result: Entry | null = e;
    for (const c of on(e.id)) {
      if (!allowed(e, c)) continue;
      const standing = now(c);
      if (standing?.kind !== 'correction') continue;
      if (standing.body.action === 'withdraw') result = null;
      else {
        result = { ...e, body: standing.body.body } as Entry;
        changedAt.set(e.id, standing.orderAt);
      }
    }
    return result;
  };
  const list = entries.filter((e) => e.kind !== 'correction').map(now);
  return { list: list.filter((e): e is Entry => e !== null), changedAt };
}

const along = (points: readonly Point[], length: number): ((mm: number) => Point) => {
  const steps = points.slice(1).map((p, i) => Math.hypot(...p.map((x, k) => x - points[i]![k]!)));
  return (mm) => {
    let left = Math.min(Math.max(mm, 0), length);
    for (let i = 0; i < steps.length; i += 1) {
      if (left <= steps[i]! || i === steps.length - 1)
        return points[i]!.map((x, k) => x + ((points[i + 1]![k]! - x) * left) / steps[i]!);
      left -= steps[i]!;
    }
    return points[0]!;
  };
};
const apart = (a: Point, b: Point): number => Math.hypot(...a.map((x, i) => x - b[i]!));

/** Edges that stand outside the water, however low they lie. */
const isOutside = (s: ShowerModel['seams'][number]): boolean =>
  s.kind === 'curb-outside-floor' || s.kind === 'curb-end-edge' || s.faces.some((f) => f.endsWith(':outer'));

/** True when a flood shows something worse than it did. */
function wetter(now: string, then: string): boolean {
  const [a, b] = [JSON.parse(now), JSON.parse(then)] as Record<string, number>[];
  return Object.entries(a!).some(([k, v]) => !(k in b!) || v > b![k]! + 1e-6);
}

class World {
  model: ShowerModel | null = null;
  drawings = new Map<number, ShowerModel>();
  version = 0;
  pinned: Pinned | null = null;
  method: Method | null = null;
  reqs: Req[] = [];
  proofs: Proof[] = [];
  bugs = new Map<string, Bug>();
  asks = new Map<string, Ask>();
  lets = new Map<string, Let>();
  begun = new Set<string>();
  touched = new Map<string, 'held'>();
  works: { stage: string; ms: number }[] = [];
  redos: { stage: string; places: Place[]; ms: number; seq: number }[] = [];
  again: { element: string; place: Place; order: number; seq: number }[] = [];
  basin: Basin | null = null;
  hidden = new Map<string, [number, number][]>();
  ms = 0;
  seq = 0;
  constructor(
    readonly book: RuleBook,
    readonly arrivals: ReadonlyMap<string, { skewMs: number; receivedAtMs: number | null }>,
  ) {}
  /** When it was written: by its device's clock set right, and not after the server had it. */
  when(e: Entry, at = e.observedAt): number {
    const came = this.arrivals.get(e.id);
    return Math.min(Date.parse(at) + (came?.skewMs ?? 0), came?.receivedAtMs ?? Infinity);
  }

  order(stage: string): number {
    return this.method?.stages.find((s) => s.key === stage)?.order ?? 0;
  }
  seam(id: string) {
    return this.model?.seams.find((s) => s.id === id);
  }
  exists(id: string): boolean {
    const m = this.model!;
    return (
      id === 'shower' ||
      id === m.drain.id ||
      [...m.seams, ...m.corners, ...m.faces, ...m.penetrations].some((x) => x.id === id)
    );
  }
  length(id: string): number {
    return this.seam(id)?.lengthMm ?? 1;
  }
  stretch(place: Place): [number, number] | null {
    const seam = this.seam(place.element);
    if (!seam) return [0, 1];
    const drawn = place.lengthMm ?? seam.lengthMm;
    let to = place.toMm ?? seam.lengthMm;
    if (place.toMm !== undefined && Math.abs(to - drawn) <= 1) to = seam.lengthMm;
    const [a, b] = [Math.min(place.fromMm ?? 0, to), Math.max(place.fromMm ?? 0, to)];
    return a > seam.lengthMm ? null : [Math.max(0, a), Math.min(seam.lengthMm, b)];
  }
  size(model: ShowerModel, id: string): number[] | null {
    const face = model.faces.find((f) => f.id === id);
    if (face) {
      const span = [0, 1, 2].map(
        (k) => Math.max(...face.loop.map((p) => p[k]!)) - Math.min(...face.loop.map((p) => p[k]!)),
      );
      const sides = span[2]! > 1 ? [Math.hypot(span[0]!, span[1]!), span[2]!] : [span[0]!, span[1]!];
      return [...sides, face.areaMm2];
    }
    return id === model.drain.id ? [...model.drain.point] : null;
  }
  fits(p: Pick<Proof, 'place' | 'size'>): boolean {
    const seam = this.seam(p.place.element);
    if (seam)
      return (
        Math.abs((p.place.lengthMm ?? seam.lengthMm) - seam.lengthMm) < 25 &&
        (p.place.startKey ?? seam.startKey) === seam.startKey
      );
    if (!this.exists(p.place.element)) return false;
    const now = this.size(this.model!, p.place.element);
    if (!now || !p.size) return true;
    if (p.place.element === this.model!.drain.id) return apart(now, p.size) < 25;
    const longest = Math.max(p.size[0]!, p.size[1]!);
    return (
      Math.abs(now[0]! - p.size[0]!) < 25 &&
      Math.abs(now[1]! - p.size[1]!) < 25 &&
      Math.abs(now[2]! - p.size[2]!) < 25 * longest
    );
  }

  /** Each millimetre of an element: the last look that reached it, or nothing. */
  looksBy(req: Req): string[] {
    const n = req.isLine ? Math.ceil(req.length) : 1;
    const cells: string[] = Array(n).fill('');
    for (const p of this.proofs) {
      if (p.kind !== 'look' || p.gone || !this.fits(p)) continue;
      if (p.stage !== req.stage || p.check !== req.check.id || p.element !== req.element) continue;
      const s = req.isLine ? this.stretch(p.place) : [0, 1];
      if (!s) continue;
      for (let i = 0; i < n; i += 1) {
        const mid = req.isLine ? Math.min(i + 0.5, (i + req.length) / 2) : 0.5;
        if (mid < s[0]! || mid > s[1]!) continue;
        // What a redo took from a look leaves a hole, and nothing older shows through it.
        cells[i] = p.holes.some(([a, b]) => mid > a && mid < b) ? 'hole' : p.waits ? 'waits' : p.answer;
      }
    }
    return cells;
  }
  readingsOf(req: Req): Proof[] {
    return this.proofs.filter(
      (p) =>
        p.kind === 'reading' &&
        !p.gone &&
        this.fits(p) &&
        p.stage === req.stage &&
        p.check === req.check.id &&
        p.element === req.element,
    );
  }

  found(req: Req): { verdict: Verdict; low: number; high: number; bad: boolean[]; wait: number; water: string } {
    const { check } = req;
    const cells = this.looksBy(req);
    const plain = { low: Infinity, high: -Infinity, bad: [true], wait: 0, water: '{}' };
    const whole = cells.every((c) => c === 'ok' || c === 'not-applicable');
    const na = (verdict: Verdict): Verdict => {
      if (verdict === 'fail') return 'fail';
      if (cells.every((c) => c === 'not-applicable')) return 'pass';
      const gaps = cells.filter((c) => !['ok', 'not-applicable', 'defect'].includes(c));
      return gaps.length > 0 && gaps.every((c) => c === 'waits') ? 'undecided' : verdict;
    };
    if (check.kind === 'looked') {
      const verdict: Verdict = cells.includes('defect') ? 'fail' : whole ? 'pass' : 'unseen';
      const bad = cells.map((c) =>
        verdict === 'fail' ? c === 'defect' : !['ok', 'not-applicable', 'defect'].includes(c),
      );
      const judged = na(verdict);
      return {
        ...plain,
        verdict: judged,
        bad: judged === 'undecided' ? cells.map(() => true) : req.isLine ? bad : [true],
      };
    }
    if (check.kind === 'measured') return this.measured(req, cells, whole, na);
    if (check.kind === 'wait') {
      const w = this.wait(check.after, check.hours, req.order);
      return { ...plain, verdict: na(w.verdict), wait: w.ready };
    }
    const basin = this.basin;
    const verdict: Verdict = !basin || basin.void || basin.verdict === null ? 'unseen' : basin.verdict;
    const isWet = basin?.looks.some((l) => l.answer === 'wet' && l.moment !== 'start');
    const shown = verdict === 'unseen' ? {} : { ...basin!.shown, ...(isWet ? { wet: 1 } : {}) };
    return { ...plain, verdict: na(verdict), water: JSON.stringify(shown) };
  }
  measured(req: Req, cells: string[], whole: boolean, na: (v: Verdict) => Verdict) {
    const { check } = req as { check: Extract<Req['check'], { kind: 'measured' }> };
    const read = this.readingsOf(req);
    const out = (v: number) =>
      v < (check.limit.atLeastMm ?? -Infinity) - 1e-6 || v > (check.limit.atMostMm ?? Infinity) + 1e-6;
    const low = check.limit.atLeastMm === undefined ? Infinity : Math.min(...read.map((r) => r.value));
    const high = check.limit.atMostMm === undefined ? -Infinity : Math.max(...read.map((r) => r.value));
    const L = req.length;
    let complete: boolean;
    if (req.isLine) {
      const ats = read.map((r) => Math.min(r.at, L)).sort((a, b) => a - b);
      let [spots, last] = [0, -Infinity];
      for (const at of ats)
        if (at - last >= 50) {
          spots += 1;
          last = at;
        }
      const gaps = ats.slice(1).every((at, i) => at - ats[i]! <= check.pattern.gapAtMostMm!);
      const ends =
        ats.length > 0 && ats[0]! <= check.pattern.endWithinMm! && ats.at(-1)! >= L - check.pattern.endWithinMm!;
      complete = ends && gaps && spots >= Math.min(check.pattern.readingsAtLeast, Math.floor(L / 150) + 1) && whole;
      for (const a of this.again.filter((x) => x.element === req.element && x.order <= req.order)) {
        const s = this.stretch(a.place);
        if (!s) continue;
        const [mid, half] = [(s[0] + s[1]) / 2, Math.max(50, s[1] - s[0]) / 2];
        if (!read.some((r) => r.seq > a.seq && Math.abs(Math.min(r.at, L) - mid) <= half + 1e-6)) complete = false;
      }
    } else complete = read.length >= check.pattern.readingsAtLeast;
    const failed = read.some((r) => out(r.value)) || cells.includes('defect');
    const verdict: Verdict = failed ? 'fail' : read.length === 0 ? 'unseen' : complete ? 'pass' : 'undecided';
    const judged = na(verdict);
    let bad = cells.map(() => true);
    if (req.isLine && judged === 'fail') {
      bad = cells.map((c, i) => {
        const mid = i + 0.5;
        if (c === 'defect') return true;
        return read.some((r) => {
          if (!out(r.value) || Math.abs(mid - Math.min(r.at, L)) > check.pattern.speaksForMm) return false;
          return !read.some((o) => Math.abs(mid - Math.min(o.at, L)) < Math.abs(mid - Math.min(r.at, L)));
        });
      });
    } else if (req.isLine && judged === 'unseen') {
      const missing = cells.map((c) => !['ok', 'not-applicable', 'defect'].includes(c));
      if (missing.includes(true)) bad = missing;
    }
    return { verdict: judged, low, high, bad, wait: 0, water: '{}' };
  }
  laid(stage: string): number[] {
    const told = [
      ...this.works.filter((w) => w.stage === stage).map((w) => w.ms),
      ...this.redos.filter((r) => r.stage === stage).flatMap((r) => r.places.map(() => r.ms)),
    ];
    if (told.length > 0) return told;
    const let_ = this.lets.get(stage);
    return let_ ? [this.letMs.get(stage)!] : [];
  }
  letMs = new Map<string, number>();
  wait(after: string[], hours: number, order: number): { verdict: Verdict; ready: number } {
    const asked = after.filter((s) => this.method!.stages.some((x) => x.key === s && this.demands(x.key)));
    if (asked.length === 0 || asked.some((s) => this.laid(s).length === 0))
      return { verdict: 'unseen', ready: Infinity };
    const laid = asked.flatMap((s) => this.laid(s));
    const ready = Math.max(...laid) + hours * HOUR;
    const flood = this.method!.stages.find((s) => s.checks.some((c) => c.kind === 'flood'));
    if (flood && order < flood.order && this.basin && !this.basin.void)
      if (this.basin.start < ready && Math.max(...laid) <= this.basin.start) return { verdict: 'fail', ready };
    return { verdict: this.ms >= ready ? 'pass' : 'undecided', ready };
  }
  demands(stage: string): boolean {
    return this.reqs.some((r) => r.stage === stage);
  }

  blocks(stage: string): Block[] {
    const order = this.order(stage);
    const found: Block[] = [];
    for (const req of this.reqs.filter((r) => r.stage === stage && r.check.severity !== 'note')) {
      const f = this.found(req);
      if (f.verdict === 'pass' || this.accepted(req, f)) continue;
      const low = req.check.kind === 'wait' ? -f.wait : f.low;
      found.push({ name: `${req.check.id} ${req.element}`, verdict: f.verdict, low, high: f.high, water: f.water });
    }
    for (const [id, bug] of this.bugs)
      if (
        bug.open &&
        bug.severity !== 'note' &&
        (bug.stage === stage || (bug.severity === 'stop' && this.order(bug.stage) < order))
      )
        found.push({ name: id, verdict: null, low: 0, high: 0, water: '{}' });
    for (const [id, ask] of this.asks)
      if (ask.body.stage === stage && ask.yes === null && !ask.ended)
        found.push({ name: id, verdict: null, low: 0, high: 0, water: '{}' });
    return found;
  }
  accepted(req: Req, f: ReturnType<World['found']>): boolean {
    return [...this.asks.values()].some((a) => {
      const b = a.body;
      if (!a.yes || a.ended || b.stage !== req.stage || b.check !== req.check.id || b.place.element !== req.element)
        return false;
      if (b.geometryVersion !== this.version || b.ruleVersion !== this.book.version || b.verdict !== f.verdict)
        return false;
      if (f.low < a.low - 1e-6 || f.high > a.high + 1e-6 || f.wait > a.wait + 1e-6) return false;
      if (wetter(f.water, a.water)) return false;
      return f.bad.every((bad, i) => !bad || a.bad[i] === true);
    });
  }
  /** What speaks against a release now: an uphold stands over what it was given over, and nothing worse. */
  against(stage: string): Block[] {
    const let_ = this.lets.get(stage)!;
    return this.blocks(stage).filter(
      (b) =>
        !let_.upheld?.some(
          (u) =>
            u.name === b.name &&
            u.verdict === b.verdict &&
            b.low >= u.low - 1e-6 &&
            b.high <= u.high + 1e-6 &&
            !wetter(b.water, u.water),
        ),
    );
  }
  takeBack(stage: string): void {
    this.lets.delete(stage);
    this.touched.delete(stage);
  }
  voidBasin(): void {
    if (!this.basin || this.basin.void) return;
    this.basin.void = true;
    this.basin.running = false;
    this.takeBack('flood-test');
  }
  lowest(place: Place): number {
    const m = this.model!;
    const seam = this.seam(place.element);
    if (seam) {
      const s = this.stretch(place);
      if (!s) return -Infinity;
      const at = along(seam.points, seam.lengthMm);
      let low = Infinity;
      for (let mm = s[0]; mm < s[1]; mm += 1) low = Math.min(low, at(mm)[2]!);
      return Math.min(low, at(s[1])[2]!);
    }
    const face = m.faces.find((f) => f.id === place.element);
    if (face) return Math.min(...face.loop.map((p) => p[2]));
    return [...m.corners, ...m.penetrations, m.drain].find((x) => x.id === place.element)?.point[2] ?? -Infinity;
  }

  redo(e: Extract<Entry, { kind: 'redo' }>): void {
    const m = this.model;
    this.redos.push({ stage: e.body.stage, places: e.body.places, ms: this.when(e), seq: this.seq });
    if (!m || !this.method?.stages.some((s) => s.key === e.body.stage)) return;
    const order = this.order(e.body.stage);
    const back = new Set([e.body.stage]);
    for (const s of this.method.stages)
      if (s.checks.some((c) => c.kind === 'wait' && c.after.includes(e.body.stage))) back.add(s.key);
    for (const place of e.body.places) {
      for (const p of this.proofs) if (this.takes(m, place, order, p)) back.add(p.stage);
      if (place.fromMm !== undefined && place.toMm !== undefined)
        this.again.push({ element: place.element, place, order, seq: this.seq });
      for (const a of this.asks.values()) {
        const hit =
          place.element === 'shower' ||
          a.body.place.element === place.element ||
          this.goesWith(m, place.element, a.body.place.element);
        if (hit && this.order(a.body.stage) >= order) a.ended = true;
      }
    }
    this.begun.add(e.body.stage);
    for (const s of back) this.takeBack(s);
    const flood = this.order('flood-test');
    if (this.basin && order <= flood && Math.min(...e.body.places.map((p) => this.lowest(p))) <= this.basin.line)
      this.voidBasin();
  }
  goesWith(m: ShowerModel, face: string, element: string): boolean {
    if (!m.faces.some((f) => f.id === face)) return false;
    if (element === face) return true;
    if (face === 'floor' && element === m.drain.id) return true;
    if (m.penetrations.some((p) => p.id === element && p.face === face)) return true;
    return [...m.seams, ...m.corners].some((x) => x.id === element && x.faces.includes(face));
  }
  takes(m: ShowerModel, place: Place, order: number, p: Proof): boolean {
    const mine = this.order(p.stage);
    if (p.gone || mine < order) return false;
    const kill = () => {
      p.gone = true;
      return true;
    };
    if (place.element === 'shower' || this.goesWith(m, place.element, p.element)) return kill();
    const cut = (a: number, b: number): boolean => {
      if (p.kind === 'reading') {
        if (p.at >= a && p.at <= b) return kill();
        // What was built again is not spoken for by a reading beside it.
        p.holes.push([a, b]);
        return false;
      }
      const s = this.stretch(p.place) ?? [0, 0];
      if (b <= s[0] || a >= s[1]) return false;
      p.holes.push([a, b]);
      return true;
    };
    const seam = this.seam(p.element);
    if (p.element === place.element) {
      if (!seam || place.fromMm === undefined || place.toMm === undefined) return kill();
      const s = this.stretch(place);
      return s ? cut(s[0], s[1]) : false;
    }
    const borders = [...m.seams, ...m.corners].find((x) => x.id === place.element)?.faces ?? [
      place.element === m.drain.id
        ? 'floor'
        : (m.penetrations.find((x) => x.id === place.element)?.face ?? place.element),
    ];
    if (m.faces.some((f) => f.id === p.element))
      return borders.includes(p.element) && (mine > order || p.kind === 'look') ? kill() : false;
    if (mine <= order) return false;
    const near = this.near(m, place);
    if (!near) return false;
    if (seam) {
      const at = along(seam.points, seam.lengthMm);
      let any = false;
      for (let mm = 0; mm < seam.lengthMm; mm += 10) {
        const to = Math.min(seam.lengthMm, mm + 10);
        if (near(at((mm + to) / 2)) <= 150 && cut(mm, to)) any = true;
        if (p.gone) break;
      }
      return any;
    }
    const own = [...m.corners, ...m.penetrations, m.drain].find((x) => x.id === p.element)?.point;
    return own !== undefined && near(own) <= 150 ? kill() : false;
  }
  /** Distance to a redone place, by a dense row of its points. */
  near(m: ShowerModel, place: Place): ((p: Point) => number) | null {
    const seam = this.seam(place.element);
    const points: Point[] = [];
    if (seam) {
      const s = this.stretch(place);
      if (!s) return null;
      const at = along(seam.points, seam.lengthMm);
      for (let mm = s[0]; mm < s[1]; mm += 1) points.push(at(mm));
      points.push(at(s[1]));
    } else {
      const one = [...m.corners, ...m.penetrations, m.drain].find((x) => x.id === place.element)?.point;
      const face = m.faces.find((f) => f.id === place.element);
      if (one) points.push(one);
      else if (face) {
        // Flat four-sided faces of the test's alcove: a grid of a centimetre.
        const [a, b, , d] = [...face.loop] as unknown as [Point, Point, Point, Point];
        for (let u = 0; u <= 100; u += 1)
          for (let v = 0; v <= 100; v += 1)
            points.push(a.map((x, k) => x + ((b[k]! - x) * u) / 100 + ((d[k]! - x) * v) / 100));
      } else return null;
    }
    return (p) => Math.min(...points.map((q) => apart(p, q)));
  }

  basinKey(model: ShowerModel, line: number): [Map<string, number[]>, Point, number] {
    const wet = new Map<string, number[]>();
    for (const s of model.seams) {
      if (isOutside(s)) continue;
      if (s.lowMm > line) continue;
      const share = s.highMm <= line ? 1 : (line - s.lowMm) / (s.highMm - s.lowMm);
      wet.set(s.id, [s.lengthMm * share, s.lowMm]);
    }
    return [wet, model.drain.point, model.totals.floorMm2];
  }

  take(e: Entry, find: (id: string, v: number) => RuleBook | null, changedAt: Map<string, string>): void {
    this.seq += 1;
    this.ms = Math.max(this.ms, this.when(e));
    if (!mayWriteIt(e)) return;
    const manager = role(e) === 'manager';
    switch (e.kind) {
      case 'geometry-set': {
        const built = showerModel(e.body.geometry);
        if (!built.ok) return;
        const before = { stood: this.stood(), model: this.model };
        this.model = built.value;
        this.version = e.body.version;
        this.drawings.set(e.body.version, built.value);
        this.ask();
        if (before.model && this.basin) {
          const [a, b] = [this.basinKey(before.model, this.basin.line), this.basinKey(built.value, this.basin.line)];
          const other =
            a[0].size !== b[0].size ||
            [...a[0]].some(([id, w]) => {
              const n = b[0].get(id);
              return !n || Math.abs(n[0]! - w[0]!) >= 25 || Math.abs(n[1]! - w[1]!) >= 5;
            }) ||
            apart(a[1], b[1]) >= 25 ||
            Math.abs(a[2] - b[2]) >= 25 * Math.sqrt(a[2]);
          if (other) this.voidBasin();
        }
        return this.noteTouched(before.stood);
      }
      case 'rules-pinned': {
        const book = find(e.body.ruleBook, e.body.version);
        if (!book || !combineMethods(book, e.body, [])) return;
        const seen = this.proofs.filter((p) => !p.gone);
        const begins = e.body.beginsAt === undefined ? -1 : this.order(e.body.beginsAt);
        const less = this.pinned !== null && seen.some((p) => this.order(p.stage) < begins);
        if (less && !manager) return;
        const stood = this.stood();
        this.pinned = e.body;
        this.ask();
        return this.noteTouched(stood);
      }
      case 'look':
      case 'reading': {
        this.begun.add(e.body.stage);
        const places = e.kind === 'look' ? e.body.places : [e.body.place];
        const checks = e.kind === 'look' ? e.body.checks : [e.body.check];
        for (const place of places) {
          const seam = this.seam(place.element);
          if (seam) {
            const longest = Math.max(seam.lengthMm, place.lengthMm ?? 0) + 1;
            const start = e.kind === 'reading' ? e.body.atMm : Math.min(place.fromMm ?? 0, place.toMm ?? longest);
            if (start > longest) continue;
          }
          for (const check of checks) {
            const rule = this.method?.stages.find((s) => s.key === e.body.stage)?.checks.find((c) => c.id === check);
            const isNa = e.kind === 'look' && e.body.answer === 'not-applicable';
            const many = new Set(places.map((p) => p.element)).size > 1;
            const weighty = !rule || rule.severity === 'stop' || ['wait', 'flood', 'film'].includes(rule.kind) || many;
            const s = this.stretch(place) ?? [0, this.length(place.element)];
            this.proofs.push({
              seq: this.seq,
              kind: e.kind,
              stage: e.body.stage,
              check,
              element: place.element,
              from: s[0],
              to: s[1],
              at: e.kind === 'reading' ? Math.min(e.body.atMm, this.length(place.element)) : 0,
              value: e.kind === 'reading' ? e.body.valueMm : 0,
              answer: e.kind === 'look' ? e.body.answer : '',
              waits: isNa && weighty && !manager,
              gone: false,
              holes: [],
              place,
              size: this.size(this.drawings.get(e.geometryVersion) ?? this.model!, place.element),
            });
          }
        }
        return this.bugOf(e);
      }
      case 'defect-found': {
        this.begun.add(e.body.stage);
        if (e.body.about === undefined) {
          this.bugs.set(e.id, {
            seq: this.seq,
            stage: e.body.stage,
            check: null,
            places: [e.body.place],
            severity: e.body.severity,
            open: true,
          });
          return;
        }
        const bug = this.bugs.get(e.body.about);
        if (bug && (manager || RANK[e.body.severity] <= RANK[bug.severity])) bug.severity = e.body.severity;
        return;
      }
      case 'defect-closed': {
        const bug = this.bugs.get(e.body.defect);
        if (!bug) return;
        // Every millimetre of its places was built again, or looked at and found good, since.
        const redone = this.redos
          .filter((r) => r.seq > bug.seq && this.order(r.stage) <= this.order(bug.stage))
          .flatMap((r) => r.places);
        const since = [
          ...redone,
          ...this.proofs
            .filter((p) => p.kind === 'look' && p.answer === 'ok' && !p.gone && this.fits(p))
            .filter((p) => p.seq > bug.seq && p.stage === bug.stage && (bug.check === null || p.check === bug.check))
            .map((p) => p.place),
        ];
        const fresh = bug.places.every((place) => {
          if (redone.some((p) => p.element === 'shower')) return true;
          const here = since.filter((p) => p.element === place.element);
          const seam = this.seam(place.element);
          const asked = seam && this.stretch(place);
          if (!seam || !asked) return here.length > 0;
          const spans = here.flatMap((p) => [this.stretch(p)].filter((x) => x !== null));
          for (let mm = Math.ceil(asked[0]); mm < asked[1]; mm += 1)
            if (!spans.some(([from, to]) => mm >= from - 1 && mm <= to + 1)) return false;
          return true;
        });
        const answered = e.v < 3 || bug.severity === 'note' || (e.body.cause && e.body.escape);
        if (answered && (bug.severity !== 'stop' || manager || fresh)) bug.open = false;
        return;
      }
      case 'redo':
        return this.redo(e);
      case 'work-done': {
        this.begun.add(e.body.stage);
        this.hide(e.body.stage);
        this.works.push({ stage: e.body.stage, ms: this.when(e) });
        for (const r of this.reqs)
          if (r.check.kind === 'wait' && r.check.after.includes(e.body.stage)) {
            const f = this.found(r);
            if (f.verdict !== 'pass' && !this.accepted(r, f)) this.takeBack(r.stage);
          }
        if (
          this.method?.stages.some((s) => s.key === e.body.stage) &&
          this.order(e.body.stage) <= this.order('flood-test')
        )
          this.voidBasin();
        return;
      }
      case 'deviation-asked': {
        const req = this.reqs.find(
          (r) => r.stage === e.body.stage && r.check.id === e.body.check && r.element === e.body.place.element,
        );
        const f = req ? this.found(req) : null;
        const s = this.stretch(e.body.place) ?? [0, 1];
        const bad = (f?.bad ?? []).map((b, i) => b && (!req!.isLine || (i + 0.5 > s[0] - 1 && i + 0.5 < s[1] + 1)));
        this.asks.set(e.id, {
          by: e.author.id,
          body: e.body,
          low: f?.low ?? Infinity,
          high: f?.high ?? -Infinity,
          wait: f?.wait ?? 0,
          water: f?.water ?? '{}',
          bad,
          yes: null,
          ended: false,
        });
        return;
      }
      case 'deviation-decided': {
        const ask = this.asks.get(e.body.asked);
        const changed = changedAt.get(e.body.asked);
        if (!ask || ask.by === e.author.id || (changed !== undefined && changed > e.orderAt)) return;
        ask.yes = e.body.accepted;
        return;
      }
      case 'stage-released': {
        this.begun.add(e.body.stage);
        const blocked = this.blocks(e.body.stage);
        const upheld = e.body.upholds !== undefined && manager ? blocked : null;
        this.lets.set(e.body.stage, { seq: this.seq, blocked: blocked.map((b) => b.name), upheld });
        this.letMs.set(e.body.stage, this.when(e));
        this.touched.delete(e.body.stage);
        return;
      }
      case 'stage-reopened':
        this.begun.add(e.body.stage);
        return this.takeBack(e.body.stage);
      default:
        return this.water(e);
    }
  }
  /** Looked for water: found after the test, it takes the verdict back, whatever the pinned rules ask now. */
  wetLook(e: Extract<Entry, { kind: 'moisture-look' }>, severity: Severity, check: string | null): void {
    const b = this.basin;
    if (!b || b.void) return;
    const isWet = e.body.answer === 'wet' && e.body.moment !== 'start';
    if (!b.running && isWet && b.verdict !== null && b.verdict !== 'fail') {
      b.verdict = 'fail';
      const { high: _, net: __, ...lacks } = b.shown;
      b.shown = { ...lacks, unread: 1 };
      this.leak(e.id, severity, check);
    }
    b.looks.push({
      where: e.body.where,
      moment: e.body.moment ?? '',
      answer: e.body.answer ?? 'dry',
      atMs: this.when(e),
    });
  }
  water(e: Entry): void {
    const check = this.method?.stages.find((s) => s.key === 'flood-test')?.checks[0];
    if (e.kind === 'moisture-look') return this.wetLook(e, check?.severity ?? 'stop', check?.id ?? null);
    const asked = check?.kind === 'flood';
    if (e.kind === 'flood-started') {
      if (!asked) return;
      this.begun.add('flood-test');
      const needed = this.method!.stages.filter(
        (s) =>
          s.order < this.order('flood-test') &&
          s.holdPoint &&
          s.checks.some((c) => c.kind !== 'wait' && c.severity !== 'note') &&
          this.demands(s.key),
      );
      const start = Math.min(this.when(e, e.body.startedAt), this.when(e));
      this.basin = {
        start,
        line: e.body.waterLineMm,
        filled: e.body.waterLineMm,
        water: [],
        pan: [],
        minutes: [],
        seriesHours: 0,
        looks: [],
        running: true,
        void: false,
        missing: needed.some((s) => !this.lets.has(s.key)),
        missingStages: needed.filter((s) => !this.lets.has(s.key)).map((s) => s.key),
        verdict: null,
        shown: {},
      };
      if (this.works.some((w) => w.ms >= start && this.order(w.stage) <= this.order('flood-test'))) this.voidBasin();
      return;
    }
    const b = this.basin;
    if (!b || b.void) return;
    if (!b.running) return;
    if (e.kind === 'flood-reading' && e.body.series) {
      b.minutes = e.body.series.minutes;
      b.seriesHours = (Date.parse(e.body.series.startAt) - b.start) / HOUR;
      if (e.body.of === 'pan') b.pan = e.body.series.levelMm;
      else {
        b.water = e.body.series.levelMm;
        b.line = Math.min(b.filled, ...b.water);
      }
      return;
    }
    if (e.kind !== 'flood-ended') return;
    b.running = false;
    b.line = Math.min(b.line, e.body.lowestLevelMm);
    const wet = b.looks.some((l) => l.answer === 'wet' && l.moment !== 'start');
    if (e.body.verdict === 'aborted' && !wet) {
      b.verdict = null;
      return;
    }
    if (!asked) {
      // Rules that ask for no flood can not judge one; water that was seen below is a leak whatever they ask.
      b.verdict = wet ? 'fail' : 'undecided';
      if (wet) this.leak(e.id, 'stop', null);
      return;
    }
    const at = (levels: number[]) =>
      levels
        .map((levelMm, i) => ({ atHours: b.seriesHours + b.minutes[i]! / 60, levelMm }))
        // What a logger wrote before this test was filled is of another water.
        .filter((r) => r.atHours >= 0);
    const judged =
      b.water.length === 0
        ? null
        : byReadings({
            method: 'logger',
            readings: at(b.water),
            resolutionMm: 0.1,
            ...(b.pan.length > 0 ? { pan: { readings: at(b.pan), resolutionMm: 0.1 } } : {}),
            settleHours: 0.5,
            smallestLeakMmPerDay: 1,
            plannedHours: 24,
            moistureFound: wet,
          });
    const v = judged;
    const seen = (moment: string, ok: (ms: number) => boolean) =>
      b.looks.some((l) => l.where === 'below' && l.moment === moment && l.answer !== 'could-not-see' && ok(l.atMs));
    const lacks: Record<string, number> = {};
    if (b.missing) for (const stage of b.missingStages) lacks[`no ${stage}`] = 1;
    if (24 - (v?.hoursRun ?? 0) > 1 / 60) lacks.hours = 24 - (v?.hoursRun ?? 0);
    const first = at(b.water)[0]?.levelMm ?? b.filled;
    const shallow = (this.model!.geometry.perimeterRiseMm ?? 0) + 50.8 - Math.min(b.filled, first);
    if (shallow > 0.5) lacks.depth = shallow;
    const curbs = this.model!.geometry.edges.flatMap((x) => (x.kind === 'curb' ? [x.heightMm] : []));
    if (b.filled - Math.min(...curbs) > 0.5) lacks.curb = b.filled - Math.min(...curbs);
    if (!seen('start', (ms) => ms <= b.start + 2 * HOUR)) lacks.start = 1;
    if (!seen('end', (ms) => ms >= b.start + 23.5 * HOUR)) lacks.end = 1;
    const enough = Object.keys(lacks).length === 0;
    b.verdict = wet || v?.verdict === 'fail' ? 'fail' : v?.verdict === 'pass' && enough ? 'pass' : 'undecided';
    b.shown = { ...lacks, ...(v ? { high: v.highMmPerDay ?? -1 } : { unread: 1 }) };
    if (v && b.verdict === 'fail' && v.netLossMmPerDay !== null) b.shown.net = v.netLossMmPerDay;
    if (b.verdict === 'pass') for (const bug of this.bugs.values()) if (bug.check === 'holds-water') bug.open = false;
    if (b.verdict === 'fail') this.leak(e.id, check.severity);
  }
  leak(id: string, severity: Severity, check: string | null = 'holds-water'): void {
    this.bugs.set(id, {
      seq: this.seq,
      stage: 'flood-test',
      check,
      places: [{ element: 'shower' }],
      severity,
      open: true,
    });
  }
  bugOf(e: Extract<Entry, { kind: 'look' | 'reading' }>): void {
    const stage = this.method?.stages.find((s) => s.key === e.body.stage);
    if (e.kind === 'look') {
      if (e.body.answer !== 'defect') return;
      const rules = (stage?.checks ?? []).filter((c) => e.body.checks.includes(c.id));
      const severity = (['stop', 'fix', 'note'] as const).find((s) => rules.some((r) => r.severity === s)) ?? 'fix';
      this.bugs.set(e.id, {
        seq: this.seq,
        stage: e.body.stage,
        check: e.body.checks[0]!,
        places: e.body.places,
        severity,
        open: true,
      });
      return;
    }
    const rule = stage?.checks.find((c) => c.id === e.body.check);
    if (rule?.kind !== 'measured') return;
    const seam = this.seam(e.body.place.element);
    if (seam && e.body.atMm > Math.max(seam.lengthMm, e.body.place.lengthMm ?? 0) + 1) return;
    const { atLeastMm = -Infinity, atMostMm = Infinity } = rule.limit;
    if (e.body.valueMm >= atLeastMm - 1e-6 && e.body.valueMm <= atMostMm + 1e-6) return;
    const place = seam
      ? {
          ...e.body.place,
          // What must be built again or looked at is where it was read.
          fromMm: Math.max(0, e.body.atMm - 0.5),
          toMm: Math.min(seam.lengthMm, e.body.atMm + 0.5),
        }
      : e.body.place;
    this.bugs.set(e.id, {
      seq: this.seq,
      stage: e.body.stage,
      check: rule.id,
      places: [place],
      drawn: seam
        ? [
            {
              ...e.body.place,
              fromMm: Math.max(0, e.body.atMm - rule.pattern.speaksForMm),
              toMm: Math.min(seam.lengthMm, e.body.atMm + rule.pattern.speaksForMm),
            },
          ]
        : [place],
      severity: rule.severity,
      open: true,
    });
  }
  ask(): void {
    this.method = this.pinned && combineMethods(this.book, this.pinned, []);
    if (!this.method || !this.model) {
      this.reqs = [];
      return;
    }
    this.reqs = requirementsOf(this.model, this.method).map((r) => ({
      stage: r.stage.key,
      order: r.stage.order,
      check: r.check,
      element: r.element,
      length: r.lengthMm,
      isLine: r.hasLength,
    }));
  }
  stood(): Set<string> {
    return new Set([...this.lets.keys()].filter((s) => this.against(s).length === 0));
  }
  noteTouched(before: Set<string>): void {
    for (const stage of this.lets.keys()) {
      if (this.against(stage).length === 0) this.touched.delete(stage);
      else if (before.has(stage)) this.touched.set(stage, 'held');
    }
  }
  words(): Map<string, Word> {
    const words = new Map<string, Word>();
    for (const s of this.method?.stages ?? []) {
      const let_ = this.lets.get(s.key);
      if (!let_) {
        words.set(s.key, this.begun.has(s.key) ? 'held' : 'open');
        continue;
      }
      const own = this.against(s.key);
      const early = this.released_early(s.key);
      const lower = this.method!.stages.filter(
        (l) => l.order < s.order && l.holdPoint && this.demands(l.key) && words.get(l.key) !== 'released',
      );
      if (let_.upheld === null && (let_.blocked.length > 0 || early)) words.set(s.key, 'contested');
      else if (own.length > 0) words.set(s.key, this.touched.has(s.key) ? 'held' : 'contested');
      else if (lower.length > 0)
        words.set(s.key, lower.some((l) => words.get(l.key) === 'contested') ? 'contested' : 'held');
      else words.set(s.key, 'released');
    }
    return words;
  }
  /** What a layer hides that nobody had proved: what was not looked at, or all of it where that is not the trouble. */
  hide(stage: string): void {
    if (!this.method?.stages.some((s) => s.key === stage)) return;
    for (const req of this.reqs) {
      const below = this.method.stages.find((s) => s.key === req.stage)!;
      if (below.order >= this.order(stage) || !below.holdPoint || this.lets.get(req.stage)?.upheld) continue;
      if (req.check.severity === 'note' || req.check.kind === 'wait') continue;
      const f = this.found(req);
      if (f.verdict === 'pass' || this.accepted(req, f)) continue;
      const missing = this.looksBy(req).map((c) => !['ok', 'not-applicable', 'defect'].includes(c));
      const hidden = missing.includes(true) ? missing : missing.map(() => true);
      const list = this.hidden.get(req.element) ?? [];
      hidden.forEach((h, i) => {
        if (h) list.push([i, Math.min(i + 1, req.length)]);
      });
      this.hidden.set(req.element, list);
    }
  }
  /** One seam, millimetre by millimetre: the worst of the checks that are asked of it. */
  line(seam: ShowerModel['seams'][number]): Record<string, number> {
    const sums: Record<string, number> = {};
    const reqs = this.reqs.filter((r) => r.element === seam.id && r.check.severity !== 'note');
    const judged = reqs.map((r) => {
      const f = this.found(r);
      const cells = this.looksBy(r);
      const read = r.check.kind === 'measured' ? this.readingsOf(r) : [];
      const reach = r.check.kind === 'measured' ? r.check.pattern.speaksForMm : 0;
      return { r, f, cells, read, reach, accepted: f.verdict !== 'pass' && this.accepted(r, f) };
    });
    const spans = (places: readonly Place[]) => places.filter((p) => p.element === seam.id).map((p) => this.stretch(p));
    const bugs = [...this.bugs.values()].filter((b) => b.open).flatMap((b) => spans(b.drawn ?? b.places));
    const basin = this.basin;
    const wet = basin && !basin.void && basin.verdict === 'pass' && !isOutside(seam) ? basin.line - 5 : -Infinity;
    const at = along(seam.points, seam.lengthMm);
    for (let i = 0; i < seam.lengthMm; i += 1) {
      const step = Math.min(1, seam.lengthMm - i);
      const mid = i + step / 2;
      const nearest = (read: readonly Proof[]) =>
        read.reduce<Proof | null>((n, p) => (n && Math.abs(n.at - mid) <= Math.abs(p.at - mid) ? n : p), null);
      const isMeasured = ({ read, reach }: (typeof judged)[number]) => {
        const n = nearest(read);
        return n !== null && Math.abs(n.at - mid) <= reach && !n.holes.some(([a, b]) => mid > a && mid < b);
      };
      const isSeen = (j: (typeof judged)[number]) =>
        ['ok', 'not-applicable', 'defect'].includes(j.cells[i] ?? '') || isMeasured(j);
      const fails = judged.some((j) => !j.accepted && j.f.verdict === 'fail' && j.f.bad[i]);
      const measured = judged.filter((j) => j.r.check.kind === 'measured');
      let state = 'measured';
      if (fails || bugs.some((s) => s && mid > s[0] && mid < s[1])) state = 'defect';
      else if ((this.hidden.get(seam.id) ?? []).some(([a, b]) => mid > a && mid < b)) state = 'covered';
      else if (judged.length === 0) state = 'not-required';
      else if (judged.some((j) => !j.accepted && !isSeen(j))) state = 'unseen';
      else if (measured.length === 0 || !measured.every(isMeasured)) state = 'seen';
      sums[state] = (sums[state] ?? 0) + step;
      if (at(mid)[2]! <= wet) sums.water = (sums.water ?? 0) + step;
    }
    return sums;
  }
  record(): SecondRecord {
    const finite = (x: number) => (Number.isFinite(x) ? x : null);
    return {
      words: this.words(),
      findings: new Map(
        this.reqs.map((r) => {
          const f = this.found(r);
          const readings = r.check.kind === 'measured' ? this.readingsOf(r).length : 0;
          return [
            `${r.stage} ${r.check.id} ${r.element}`,
            {
              verdict: f.verdict,
              accepted: f.verdict !== 'pass' && this.accepted(r, f),
              badMm: f.verdict === 'fail' || f.verdict === 'unseen' ? f.bad.filter(Boolean).length : 0,
              low: finite(f.low),
              high: finite(f.high),
              readings,
              readyAtMs: r.check.kind === 'wait' ? finite(f.wait) : null,
            },
          ];
        }),
      ),
      lines: new Map((this.model?.seams ?? []).map((seam) => [seam.id, this.line(seam)])),
      defects: new Map([...this.bugs].map(([id, b]) => [id, `${b.severity} ${b.open ? 'open' : 'closed'}`])),
      asks: new Map([...this.asks].map(([id, a]) => [id, `${a.yes ?? 'waits'}${a.ended ? ', ended' : ''}`])),
      flood: this.basin
        ? `${this.basin.running ? 'running' : (this.basin.verdict ?? 'aborted')}${this.basin.void ? ', void' : ''}`
        : 'none',
    };
  }
  /** A wait released before it was over, as it is known now. */
  released_early(stage: string): boolean {
    return this.reqs.some((r) => {
      if (r.stage !== stage || r.check.kind !== 'wait') return false;
      const { ready } = this.wait(r.check.after, r.check.hours, r.order);
      return ready !== Infinity && ready > this.letMs.get(stage)! && !this.accepted(r, this.found(r));
    });
  }
}

/** What the second judge says of one check on one element. */
export interface SecondFinding {
  verdict: Verdict;
  accepted: boolean;
  /** Where it failed, or where nobody looked, whole millimetres; what has no length counts as one. */
  badMm: number;
  /** The worst in each direction that its limit has: lowest and highest reading. */
  low: number | null;
  high: number | null;
  readings: number;
  /** When a wait is over, ms since 1970; null without an end. */
  readyAtMs: number | null;
}

export interface SecondRecord {
  /** The word of every stage of the pinned method, by its key. */
  words: Map<string, Word>;
  /** By stage, check and element. */
  findings: Map<string, SecondFinding>;
  /** By seam: how many millimetres of it are in which state, and how many were proved by water. */
  lines: Map<string, Record<string, number>>;
  /** Severity of each defect, and whether it is open, by the entry that opened it. */
  defects: Map<string, string>;
  /** What was asked to be accepted: waits, yes or no, and whether it ended. */
  asks: Map<string, string>;
  flood: string;
}

/** What stands after these entries, worked out a second time. */
export function secondJudge(
  entries: readonly Entry[],
  book: RuleBook,
  arrivals: World['arrivals'] = new Map(),
): SecondRecord {
  const sorted = [...entries].sort((a, b) =>
    a.orderAt !== b.orderAt
      ? a.orderAt < b.orderAt
        ? -1
        : 1
      : a.deviceId !== b.deviceId
        ? a.deviceId < b.deviceId
          ? -1
          : 1
        : a.deviceSeq - b.deviceSeq,
  );
  const { list, changedAt } = corrected(sorted);
  const world = new World(book, arrivals);
  for (const e of list) world.take(e, (id, v) => (id === book.id && v === book.version ? book : null), changedAt);
  return world.record();
}

import type { Check } from '../rules/checks/check';
import type { Raise } from '../rules/checks/measured';
import type { Stage } from '../rules/ruleBook';
import type { Stretch } from '../shower/seams/intervals';
import type { Body, CheckVerdict } from './bodies';
import type { Defect } from './defect';
import type { Evidence } from './state';

/** How bad a finding is, by name; a higher figure is worse. Each name is one direction in which a check can fail. */
export type Worst = Readonly<Record<string, number>>;
/** What a manager was asked to accept although the rules ask for more. */
export interface Deviation {
  /** The entry that asked. */
  id: string;
  /** What is asked, of which drawing and rules. */
  asked: Body<'deviation-asked'>;
  /** The asker's id, name, and when. */
  askedBy: string;
  /** Who asked. */
  askedByName: string;
  /** When, ISO 8601. */
  askedAt: string;
  /** What the manager said; null while it waits. */
  decision: { accepted: boolean; by: string; reason: string; at: string } | null;
  /** What was shown when it was asked: anything worse ends it. */
  worst: Worst;
  /** Where it failed or was missing then, within what was asked for; it covers no more. */
  covers: Stretch[];
  /** Something worse came to light, or what was accepted is gone. */
  ended: boolean;
}
/** What can take a release back. */
export const STAGE_CAUSES = [
  'redo',
  'work',
  'dimensions',
  'rules',
  'flood-voided',
  'came-to-light',
  'lower-stage',
  'reopened',
] as const;
/** Why a stage that was released is not: what was done later, or what came to light, with the entry where one is known. */
export interface Because {
  /** What changed. */
  cause: (typeof STAGE_CAUSES)[number];
  /** Id of the entry that changed it; null where none did. */
  entry: string | null;
  /** What speaks against it now. */
  blockers: Blocker[];
}
/** One thing that must be shown before a stage may be released. */
export interface Requirement {
  /** The stage that asks it. */
  stage: Stage;
  /** With its limit as this drawing asks it. */
  check: Check;
  /** What on this drawing raised the limit over the book's own figure, or null. */
  raised: Raise | null;
  /** What it is asked of. */
  element: string;
  /** The side of a seam; null where both are one. */
  side: string | null;
  /** mm; 1 for elements without length. */
  lengthMm: number;
  /** It is asked along a seam, and not of a point. */
  hasLength: boolean;
}
/** How one requirement stands. */
export interface Judgement {
  /** What is asked. */
  requirement: Requirement;
  /** By the evidence alone: a deviation does not change it. */
  verdict: CheckVerdict;
  /** pass, or not applicable with its reason, or accepted by a deviation. */
  satisfied: boolean;
  /** What was asked about it, accepted or not. */
  deviation: Deviation | null;
  /** "Not applicable" was said of what a manager decides, and no manager has. */
  waitsForManager: boolean;
  /** The lowest reading that counts, mm; null without one. */
  lowestMm: number | null;
  /** Place of the worst reading, and how bad all of it is. */
  worstAtMm: number | null;
  /** How bad it is, in each direction: higher is worse. */
  worst: Worst;
  /** Where the next reading helps most, mm; null when none is needed. */
  nextAtMm: number | null;
  /** Stretches looked at and found ok (or not applicable). */
  seen: Stretch[];
  /** Stretches that readings speak for. */
  measured: Stretch[];
  /** Stretches where it failed. */
  failed: Stretch[];
  /** Stretches still without any answer. */
  missing: Stretch[];
  /** The readings that it was judged by. */
  readings: Evidence[];
  /** Of a single figure, and of a question on which the trade disagrees: what stands. */
  number: number | null;
  /** The position that was found on a question; null where none was told. */
  position: string | null;
  /** For a wait: when it is over, ms since 1970; null while the work it follows is not known. */
  readyAtMs: number | null;
  /** Time zone of the site that the wait is told in, by its IANA name; null before the shower was created. */
  zone: string | null;
}
/** One thing that holds a stage. */
export type Blocker =
  | {
      kind: 'check';
      stage: string;
      check: string;
      element: string;
      side: string | null;
      verdict: CheckVerdict;
      judgement: Judgement;
    }
  | { kind: 'defect'; stage: string; defect: Defect }
  | { kind: 'deviation-pending'; stage: string; deviation: Deviation }
  | { kind: 'lower-stage'; stage: string; lower: string }
  | { kind: 'look-again'; stage: string; count: number };

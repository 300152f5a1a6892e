import { BLIND_ANSWERS, BLIND_VERDICTS } from '@careful-seam/core/crews/codes';
import { ELEMENT_GROUPS } from '@careful-seam/core/crews/elementGroup';
import { z } from 'zod';
import { DefectFilter } from './defects';

const key = z.string().min(1).max(120);
const verdict = z.enum(BLIND_VERDICTS);
/** Places of one question; more than this nobody answers in one go. */
export const BLIND_PLACES_AT_MOST = 200;

/** What two inspectors can be asked of a shower, and whom. */
export const BlindChoices = z.object({
  questions: z.array(
    z.object({
      stage: z.string(),
      stageLabel: z.string(),
      check: z.string(),
      label: z.string(),
      places: z.number().int(),
    }),
  ),
  inspectors: z.array(z.object({ id: z.uuid(), name: z.string() })),
});
export type BlindChoices = z.infer<typeof BlindChoices>;

/** A question that two inspectors are to answer, each without the other. */
export const NewBlindLook = z.object({
  shower: z.uuid(),
  stage: key,
  check: key,
  first: z.uuid(),
  second: z.uuid(),
});
export type NewBlindLook = z.infer<typeof NewBlindLook>;

/** What a blind look is about: a shower, its stage, and what is asked of each place. */
const about = {
  id: z.uuid(),
  showerId: z.uuid(),
  shower: z.string(),
  job: z.string(),
  stage: z.string(),
  stageLabel: z.string(),
  label: z.string(),
};

/** A question that waits for one's own answers. It says nothing of what the other answered, not even whether. */
export const BlindTask = z.object({
  ...about,
  /** Why it matters. */
  why: z.string(),
  /** Elements with their names, in the order of the drawing. */
  places: z.array(z.object({ element: z.string(), name: z.string() })),
  /** Places of which the record says something by now: they are left out. */
  leftOut: z.number().int(),
});
export type BlindTask = z.infer<typeof BlindTask>;
/** What waits for whoever asks. */
export const BlindTasks = z.object({ tasks: z.array(BlindTask) });

/** Answers by element: each place that was asked, and no other. */
export const BlindAnswered = z.object({ answers: z.record(z.string().min(1).max(120), z.enum(BLIND_ANSWERS)) });
export type BlindAnswered = z.infer<typeof BlindAnswered>;
/** Places that were found not sound: they hold nothing until they are recorded as defects. */
export const BlindKept = z.object({ wrong: z.array(z.string()) });

const share = z.number();
/** How far two see the same, of all or of one kind. */
export const AgreementLine = z.object({
  id: z.string(),
  name: z.string(),
  places: z.number().int(),
  same: z.number().int(),
  /** Of all places like these they say the same at this share and more, 95 of 100 (the lower end of the exact interval). */
  sameAtLeast: share,
  onlyFirst: z.number().int(),
  onlySecond: z.number().int(),
  both: z.number().int(),
  /** Agreement beyond chance, with its interval of 95 %; null where all was answered alike. */
  kappa: share.nullable(),
  low: share.nullable(),
  high: share.nullable(),
});
export type AgreementLine = z.infer<typeof AgreementLine>;

/** By what agreement is told apart: the part of the shower, the question, the two who looked. */
export const EYES_BY = ['group', 'check', 'pair'] as const;
/** Do inspectors see the same? */
export const EyesAsk = z.object({
  by: z.enum(EYES_BY).default('group'),
  from: DefectFilter.shape.from,
  to: DefectFilter.shape.to,
});
export type EyesAsk = z.infer<typeof EyesAsk>;

/** A question that was asked, as the manager sees it: of what was answered nothing until both have. */
export const BlindLookRow = z.object({
  ...about,
  first: z.string(),
  second: z.string(),
  /** Names of those who have not answered yet. */
  waitsFor: z.array(z.string()),
  askedAt: z.string(),
  /** Places that both answered; null while one has not. */
  places: z
    .array(z.object({ element: z.string(), group: z.enum(ELEMENT_GROUPS), first: verdict, second: verdict }))
    .nullable(),
});
export type BlindLookRow = z.infer<typeof BlindLookRow>;

/** How far inspectors see the same, and what was asked so far, the newest first. */
export const EyesAnswer = z.object({ all: AgreementLine, lines: z.array(AgreementLine), looks: z.array(BlindLookRow) });
export type EyesAnswer = z.infer<typeof EyesAnswer>;

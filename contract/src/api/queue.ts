import { z } from 'zod';

/** What waits for the manager across all showers of the firm, whatever the manager's own tablet holds. */
export const QueueLine = z.object({
  id: z.uuid(),
  name: z.string(),
  job: z.string(),
  /** Decisions that wait for a manager: deviations, looks that say "not applicable", contested releases. */
  decisions: z.number().int(),
  /** Defects that hold or must be put right, and are open. */
  holds: z.number().int(),
  /** Since when the oldest of them waits. */
  since: z.string(),
});
export type QueueLine = z.infer<typeof QueueLine>;
export const QueueAnswer = z.object({
  lines: z.array(QueueLine),
  decisions: z.number().int(),
  holds: z.number().int(),
  /** Showers that moved and were not looked through yet: the figures are so much behind. */
  behind: z.number().int(),
  next: z.string().nullable(),
});

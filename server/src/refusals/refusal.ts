import type { Filling, Problem, Values } from '@careful-seam/core/outcome/outcome';
import { type ErrorCode, type ErrorValues, sentenceOf, statusOf } from '@careful-seam/words/errors/errors';

/**
 * An expected failure on its way to the client: code, field and the values of its sentence. The one error class that handlers
 * throw; its message is the English sentence, for the log.
 */
export class Refusal<Code extends ErrorCode = ErrorCode> extends Error {
  readonly problem: Problem;
  readonly code: string;
  readonly field: string;
  /** The HTTP status that it is answered with. */
  readonly status: number;
  constructor(code: Code, field: string, ...[values]: Filling<ErrorValues[Code]>) {
    const problem = { code, field, values: (values ?? {}) as Values };
    super(sentenceOf(problem, 'en'));
    this.problem = problem;
    this.code = code;
    this.field = field;
    this.status = statusOf(code);
  }
  /** What core, a worker or another server refused. */
  static of({ code, field, values }: Problem): Refusal {
    // The code comes from the same table; only the compiler does not know which one it is.
    return new Refusal(code as 'no-such-shower', field, ...([values] as unknown as []));
  }
}

import { HTTP_ERRORS, type HttpErrorCode } from '@careful-seam/contract/api/errors';
import type { Problem } from '@careful-seam/core/outcome/outcome';

/** An expected failure on its way to the client: code, field, sentence. The one error class handlers throw. */
export class Refusal extends Error {
  constructor(
    readonly code: string,
    readonly field: string,
    message: string,
  ) {
    super(message);
  }
  get status(): number {
    return HTTP_ERRORS[this.code as HttpErrorCode] ?? 422;
  }
  static of(problem: Problem): Refusal {
    return new Refusal(problem.code, problem.field, problem.message);
  }
}

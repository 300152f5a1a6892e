import { ErrorAnswer } from '@careful-seam/contract/api/messages';
import type { ToldProblem } from '@careful-seam/words/errors/errors';
import type { z } from 'zod';

/** A refusal from the server, or the lack of one: `code` is "offline" when nothing answered. */
export class ApiError extends Error {
  /** `status` is the HTTP one; null where no server answered. */
  constructor(
    readonly problem: ToldProblem & { field: string },
    readonly status: number | null = null,
  ) {
    super(problem.code);
  }
  get code(): string {
    return this.problem.code;
  }
  get field(): string {
    return this.problem.field;
  }
}

/** What the server said against it, as an error with its code. */
async function refusal(response: Response): Promise<ApiError> {
  const read = ErrorAnswer.safeParse(await response.json().catch(() => null));
  const { status } = response;
  if (read.success) return new ApiError(read.data.error, status);
  return new ApiError({ code: 'server-answered', field: '', values: { status } }, status);
}

/** The way to the server. `fetch` in the browser; a network in memory in the simulation. */
export type Fetch = (path: string, init: RequestInit) => Promise<Response>;

/** The ways to ask the server. */
export interface Server {
  /** Asks, and gives the answer as it came; throws an `ApiError` for a refusal. */
  send: (method: string, path: string, body?: BodyInit, type?: string) => Promise<Response>;
  /** One JSON call; the answer is validated on this side too. */
  call: <T extends z.ZodType>(schema: T, method: string, path: string, body?: unknown) => Promise<z.infer<T>>;
  /** One call that is answered line by line; each is had as it comes, read as JSON and not validated yet. */
  lines: (method: string, path: string, body: unknown) => AsyncGenerator<unknown>;
}

/** Whether nothing answered. */
export const isOffline = (error: unknown): boolean => error instanceof ApiError && error.code === 'offline';

/** There was no answer at all. */
const offline = () => new ApiError({ code: 'offline', field: '' });

/** The lines of a body as they come. A body that breaks off gives what came whole, and then fails as no connection. */
async function* linesOf(body: ReadableStream<Uint8Array>): AsyncGenerator<string> {
  const reader = body.getReader();
  const decoder = new TextDecoder();
  let rest = '';
  try {
    for (;;) {
      const { done, value } = await reader.read().catch(() => {
        throw offline();
      });
      rest += decoder.decode(value, { stream: !done });
      const whole = rest.split('\n');
      rest = whole.pop()!;
      yield* whole;
      if (!done) continue;
      if (rest !== '') throw offline();
      return;
    }
  } finally {
    void reader.cancel().catch(() => undefined);
  }
}

/** The server behind a way to it. Every failure is an `ApiError`; nothing answered is "offline". */
export function serverOver(fetchIt: Fetch): Server {
  const send: Server['send'] = async (method, path, body, type) => {
    const headers: Record<string, string> = { 'x-careful-seam': '1', ...(type ? { 'content-type': type } : {}) };
    const response = await fetchIt(path, {
      method,
      headers,
      credentials: 'same-origin',
      ...(body === undefined ? {} : { body }),
    }).catch(() => {
      throw offline();
    });
    if (!response.ok) throw await refusal(response);
    return response;
  };
  return {
    send,
    call: async (schema, method, path, body) => {
      // A picture goes as it is.
      const response =
        body instanceof Blob
          ? await send(method, path, body, body.type)
          : await send(method, path, body === undefined ? undefined : JSON.stringify(body), 'application/json');
      return schema.parse(await response.json());
    },
    async *lines(method, path, body) {
      const response = await send(method, path, JSON.stringify(body), 'application/json');
      if (response.body) for await (const line of linesOf(response.body)) yield JSON.parse(line) as unknown;
    },
  };
}

/** The server that this page came from. */
export const theServer = serverOver((path, init) => fetch(path, init));
/** Asks it. */
export const { send, call } = theServer;

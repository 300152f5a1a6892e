import { ErrorAnswer } from '@careful-seam/contract/api/messages';
import type { z } from 'zod';

/** A refusal from the server, or the lack of one: `code` is "offline" when nothing answered. */
export class ApiError extends Error {
  constructor(
    readonly code: string,
    readonly field: string,
    message: string,
  ) {
    super(message);
  }
}

async function refusal(response: Response): Promise<ApiError> {
  const read = ErrorAnswer.safeParse(await response.json().catch(() => null));
  if (!read.success)
    return new ApiError('internal', '', `The server answered ${response.status}. Nothing you typed is lost.`);
  const { code, field, message } = read.data.error;
  return new ApiError(code, field, message);
}

/** The way to the server. `fetch` in the browser; a network in memory in the simulation. */
export type Fetch = (path: string, init: RequestInit) => Promise<Response>;

export interface Server {
  send: (method: string, path: string, body?: BodyInit, type?: string) => Promise<Response>;
  /** One JSON call; the answer is validated on this side too. */
  call: <T extends z.ZodType>(schema: T, method: string, path: string, body?: unknown) => Promise<z.infer<T>>;
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
      throw new ApiError('offline', '', 'No connection. What you enter is kept on this tablet.');
    });
    if (!response.ok) throw await refusal(response);
    return response;
  };
  return {
    send,
    call: async (schema, method, path, body) => {
      const response = await send(
        method,
        path,
        body === undefined ? undefined : JSON.stringify(body),
        'application/json',
      );
      return schema.parse(await response.json());
    },
  };
}

export const theServer = serverOver((path, init) => fetch(path, init));
export const { send, call } = theServer;

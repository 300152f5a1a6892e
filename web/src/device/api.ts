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

export async function send(method: string, path: string, body?: BodyInit, type?: string): Promise<Response> {
  const headers: Record<string, string> = { 'x-careful-seam': '1', ...(type ? { 'content-type': type } : {}) };
  const response = await fetch(path, {
    method,
    headers,
    credentials: 'same-origin',
    ...(body === undefined ? {} : { body }),
  }).catch(() => {
    throw new ApiError('offline', '', 'No connection. What you enter is kept on this tablet.');
  });
  if (!response.ok) throw await refusal(response);
  return response;
}

/** One JSON call; the answer is validated on this side too. */
export async function call<T extends z.ZodType>(
  schema: T,
  method: string,
  path: string,
  body?: unknown,
): Promise<z.infer<T>> {
  const response = await send(method, path, body === undefined ? undefined : JSON.stringify(body), 'application/json');
  return schema.parse(await response.json());
}

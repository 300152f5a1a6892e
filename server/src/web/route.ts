import { type Person, PHOTO_BYTES_AT_MOST } from '@careful-seam/contract/api/messages';
import type { Role } from '@careful-seam/contract/api/roles';
import express, { type Request, type Response } from 'express';
import type { DataSource } from 'typeorm';
import type { z } from 'zod';
import { Refusal } from '../people/refusal';

export interface Services {
  store: DataSource;
  photoFolder: string;
  now: () => Date;
}

export interface Call {
  req: Request;
  res: Response;
  /** Always set on routes that ask for a role. */
  person: Person;
  services: Services;
}

export const COOKIE = 'careful_seam';

/** One row of the route table: who may call it, what it takes and gives, and what answers. The role test walks this list. */
export interface Route {
  method: 'get' | 'post' | 'put' | 'delete';
  path: string;
  /** One line for the API's own description. */
  summary: string;
  roles: readonly Role[] | 'anyone';
  limit: 'sign-in' | 'usual';
  body?: 'json' | 'file' | 'bytes';
  /** Schema of what it takes, where it takes JSON. */
  takes?: z.ZodType;
  /** Schema of what it gives, or the media type of the file that it gives. */
  gives: z.ZodType | string;
  answer: (call: Call) => Promise<unknown>;
}

/** Checks a body against its schema; the first fault is named by its field. */
export function read<T extends z.ZodType>(schema: T, input: unknown): z.infer<T> {
  const result = schema.safeParse(input);
  if (result.success) return result.data;
  const issue = result.error.issues[0]!;
  const field = issue.path.join('.');
  throw new Refusal('input-invalid', field, `The field "${field}" is not valid: ${issue.message}`);
}

export const param = (req: Request, name: string): string => String(req.params[name] ?? '');

export function uuidParam(req: Request): string {
  const id = param(req, 'id');
  if (!/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(id))
    throw new Refusal('not-found', 'id', 'There is no such shower.');
  return id;
}

/** Body parsers, set per route so that nothing else is read into memory. */
export const PARSERS = {
  json: express.json({ limit: '8mb' }),
  file: express.json({ limit: '200mb' }),
  bytes: express.raw({ type: () => true, limit: PHOTO_BYTES_AT_MOST }),
};

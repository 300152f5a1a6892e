import { PhotoTaken } from '@careful-seam/contract/api/messages';
import { ROLES } from '@careful-seam/core/log/roles';
import type { Request } from 'express';
import { keepPhoto, readPhoto } from '../photos/photoStore';
import { Refusal } from '../refusals/refusal';
import { PhotoEntity } from '../store/entities/pictures';
import { PictureAsk } from './asks';
import { type Call, param, type Route, readQuery } from './route';

/** For everybody who is signed in. */
const EVERY = ROLES;

/** Widths of smaller copies, px. */
const THUMB_WIDTHS = new Set([320, 960]);

/** The hash in a path, refused where it is none. */
function hashParam(req: Request): string {
  const hash = param(req, 'hash');
  if (!/^[0-9a-f]{64}$/.test(hash)) throw new Refusal('no-such-picture', 'hash');
  return hash;
}

/** Takes a picture in, if it is the one that its hash says. */
async function putPhoto({ req, services }: Call): Promise<unknown> {
  const bytes: unknown = req.body;
  if (!Buffer.isBuffer(bytes) || bytes.length === 0) throw new Refusal('picture-empty', 'picture');
  const { hash, widthPx, heightPx } = await keepPhoto(
    services.store,
    services.picturePlace,
    hashParam(req),
    bytes,
    services.now(),
  );
  return { hash, widthPx, heightPx };
}

/** A picture, or a smaller copy. */
async function getPhoto({ req, res, services }: Call): Promise<unknown> {
  const hash = hashParam(req);
  const photo = await services.store.getRepository(PhotoEntity).findOneBy({ hash });
  if (!photo) throw new Refusal('picture-not-arrived', 'hash');
  const { width } = readQuery(PictureAsk, req.query);
  const small = width !== undefined && THUMB_WIDTHS.has(width) ? width : undefined;
  const bytes = await readPhoto(services.picturePlace, hash, small);
  res
    .set('Cache-Control', 'private, max-age=31536000, immutable')
    .type(small ? 'image/webp' : photo.mime)
    .send(bytes);
  return undefined;
}

/** What these routes share. */
const usual = { roles: EVERY, limit: 'usual' as const };

/** Pictures, by the hash of their bytes. */
export const PHOTO_ROUTES: readonly Route[] = [
  {
    ...usual,
    method: 'put',
    path: '/api/photos/:hash',
    summary: 'Sends a picture',
    body: 'bytes',
    gives: PhotoTaken,
    answer: putPhoto,
  },
  {
    ...usual,
    method: 'get',
    path: '/api/photos/:hash',
    summary: 'A picture',
    asks: PictureAsk,
    gives: 'image/*',
    answer: getPhoto,
  },
];

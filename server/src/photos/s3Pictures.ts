import { mkdir, readdir, readFile, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { S3Client } from '@aws-sdk/client-s3';
import { Refusal } from '../refusals/refusal';
import { isPathOfPicture, type PictureStore, pathOf } from './pictureStore';

/** Pictures on their way to or from the store at a time where there are many. */
const AT_ONCE = 8;
/** What does not connect, or does not answer, within this is not there, ms. */
const [CONNECT_MS, ANSWER_MS] = [3_000, 30_000];

/** The way to such a store is loaded where there is one. The version that is pinned runs on Node 20; later ones will not, which is told to nobody who can't choose it. */
const library = () => {
  process.env.AWS_SDK_JS_NODE_VERSION_SUPPORT_WARNING_DISABLED = 'true';
  return import('@aws-sdk/client-s3');
};

/** The status that a store answered a request with; 0: it did not. */
const statusOf = (error: unknown): number =>
  (error as { $metadata?: { httpStatusCode?: number } } | null)?.$metadata?.httpStatusCode ?? 0;

/** What the store said; one that does not answer is busy, so that tablets try again. */
function heard(error: unknown): Error {
  const status = statusOf(error);
  const told = error instanceof Error ? error.message || error.name : String(error);
  // A wrong key or a missing bucket is for whoever set it up: it is no passing state.
  if (status >= 400 && status < 500 && status !== 429) return new Error(`The store of pictures refused: ${told}`);
  return new Refusal('pictures-away', 'picture');
}

/** Several at a time. After a failure none is begun, and what was under way has ended when it is told. */
async function each<T>(all: readonly T[], work: (one: T) => Promise<void>): Promise<void> {
  const left = all.values();
  let failed = false;
  const lane = async () => {
    try {
      for (const one of left) {
        if (failed) return;
        await work(one);
      }
    } catch (error) {
      failed = true;
      throw error;
    }
  };
  const ends = await Promise.allSettled(Array.from({ length: AT_ONCE }, lane));
  for (const end of ends) if (end.status === 'rejected') throw end.reason;
}

/** The client of a store, made when it is first asked for. */
function clientOf(address: URL, endpoint: string): () => Promise<S3Client> {
  let made: Promise<S3Client> | null = null;
  return () => {
    made ??= library().then(
      ({ S3Client }) =>
        new S3Client({
          endpoint,
          region: address.searchParams.get('region') ?? 'us-east-1',
          credentials: {
            accessKeyId: decodeURIComponent(address.username),
            secretAccessKey: decodeURIComponent(address.password),
          },
          forcePathStyle: true,
          maxAttempts: 3,
          // Only what every compatible store knows; the bytes are held against their hash here.
          requestChecksumCalculation: 'WHEN_REQUIRED',
          responseChecksumValidation: 'WHEN_REQUIRED',
          requestHandler: { connectionTimeout: CONNECT_MS, requestTimeout: ANSWER_MS },
        }),
    );
    return made;
  };
}

/** Pictures in an S3-compatible store: `s3://KEY:SECRET@host[:port]/bucket[/below]?region=…`. */
export function s3Pictures(address: URL): PictureStore {
  const [bucket = '', ...below] = address.pathname.slice(1).split('/').filter(Boolean).map(decodeURIComponent);
  const prefix = below.map((part) => `${part}/`).join('');
  const endpoint = `${address.protocol === 's3:' ? 'https' : 'http'}://${address.host}`;
  const client = clientOf(address, endpoint);
  const at = (name: string) => ({ Bucket: bucket, Key: prefix + pathOf(name) });

  async function read(name: string): Promise<Buffer | null> {
    try {
      const { GetObjectCommand } = await library();
      const { Body } = await (await client()).send(new GetObjectCommand(at(name)));
      return Body ? Buffer.from(await Body.transformToByteArray()) : null;
    } catch (error) {
      if (statusOf(error) === 404 && (error as Error).name === 'NoSuchKey') return null;
      throw heard(error);
    }
  }

  async function write(name: string, bytes: Buffer): Promise<void> {
    const { PutObjectCommand } = await library();
    const put = new PutObjectCommand({ ...at(name), Body: bytes, ContentLength: bytes.length });
    await (await client()).send(put).catch((error: unknown) => {
      throw heard(error);
    });
  }

  return {
    where: (name) => `${endpoint}/${bucket}/${prefix}${pathOf(name)}`,
    read,
    write,
    room: () => Promise.resolve(null),
    async takeFrom(folder) {
      const found = await readdir(folder, { recursive: true }).catch(() => []);
      await each(found.filter(isPathOfPicture), async (path) =>
        write(path.slice(3), await readFile(join(folder, path))),
      );
    },
    async lay(names, into) {
      const paths: string[] = [];
      await each(names, async (name) => {
        const bytes = await read(name);
        if (bytes === null) return;
        await mkdir(dirname(join(into, pathOf(name))), { recursive: true });
        await writeFile(join(into, pathOf(name)), bytes, { mode: 0o600 });
        paths.push(pathOf(name));
      });
      return { folder: into, paths: paths.sort() };
    },
    async clear() {
      try {
        const { DeleteObjectCommand, paginateListObjectsV2 } = await library();
        const here = await client();
        for await (const page of paginateListObjectsV2({ client: here }, { Bucket: bucket, Prefix: prefix })) {
          const keys = (page.Contents ?? []).flatMap(({ Key }) => Key ?? []);
          const pictures = keys.filter((key) => isPathOfPicture(key.slice(prefix.length)));
          await each(pictures, async (Key) => {
            await here.send(new DeleteObjectCommand({ Bucket: bucket, Key }));
          });
        }
      } catch (error) {
        throw heard(error);
      }
    },
  };
}

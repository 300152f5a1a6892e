import type { Response } from 'express';

/** Headers of `sendFile` are its own to set no further: what leaves is never kept by anybody on the way. */
const UNKEPT = { cacheControl: false, etag: false, lastModified: false, dotfiles: 'allow' } as const;

/**
 * A file that an answer gives. Handlers give it instead of sending it, so that the audit has written down who took it before the first
 * byte of it leaves: a read that can't be written down does not take place.
 */
export class FileOut {
  constructor(
    /** The name it is kept under by whoever takes it; its ending sets the media type. */
    readonly name: string,
    /** Its bytes, or where it lies on the disk. */
    readonly content: string | Buffer | { file: string },
    /** Clears away what was made for it, sent or not. */
    readonly done: () => Promise<void> = async () => {},
  ) {}

  /** Sends it. Somebody who goes away in the middle is no failure. */
  async send(res: Response): Promise<void> {
    res.set('Cache-Control', 'no-store').attachment(this.name);
    const { content } = this;
    if (typeof content === 'string' || Buffer.isBuffer(content)) {
      res.send(content);
      return;
    }
    await new Promise<void>((sent, fail) =>
      res.sendFile(content.file, UNKEPT, (error) => (error && !res.headersSent ? fail(error) : sent())),
    );
  }
}

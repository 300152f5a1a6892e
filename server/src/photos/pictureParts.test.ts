import { randomBytes } from 'node:crypto';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { pictureFault } from './pictureParts';

const plain = () => sharp({ create: { width: 60, height: 40, channels: 3, background: '#446655' } });
const noisy = () => sharp(randomBytes(60 * 40 * 3), { raw: { width: 60, height: 40, channels: 3 } });
const exif = { IFD0: { Make: 'x', Artist: 'somebody' }, IFD3: { GPSLatitude: '48/1 12/1 0/1' } };

describe('a picture and nothing else', () => {
  it('is what a browser writes, in each of its forms', async () => {
    for (const make of [plain, noisy]) {
      expect(pictureFault(await make().jpeg({ quality: 80 }).toBuffer())).toBeNull();
      expect(pictureFault(await make().jpeg({ progressive: true, quality: 95 }).toBuffer())).toBeNull();
      expect(pictureFault(await make().png().toBuffer())).toBeNull();
      expect(pictureFault(await make().png({ palette: true }).toBuffer())).toBeNull();
      expect(pictureFault(await make().webp().toBuffer())).toBeNull();
      expect(pictureFault(await make().webp({ lossless: true }).toBuffer())).toBeNull();
      expect(pictureFault(await make().withIccProfile('srgb').jpeg().toBuffer())).toBeNull();
    }
  });
  it('carries no data of camera, place or author, in whatever kind', async () => {
    for (const form of ['jpeg', 'png', 'webp'] as const) {
      expect(pictureFault(await plain().withExif(exif).toFormat(form).toBuffer())).toBe('metadata');
      expect(
        pictureFault(await plain().withXmp('<x:xmpmeta xmlns:x="adobe:ns:meta/"/>').toFormat(form).toBuffer()),
      ).toBe('metadata');
    }
    // A comment, and a text chunk: put in by hand.
    const jpeg = await plain().jpeg().toBuffer();
    const comment = Buffer.concat([
      jpeg.subarray(0, 2),
      Buffer.from([0xff, 0xfe, 0, 6]),
      Buffer.from('here'),
      jpeg.subarray(2),
    ]);
    expect(pictureFault(comment)).toBe('metadata');
    const png = await plain().png().toBuffer();
    const chunk = Buffer.concat([Buffer.from([0, 0, 0, 4]), Buffer.from('tEXthere'), Buffer.alloc(4)]);
    expect(pictureFault(Buffer.concat([png.subarray(0, 33), chunk, png.subarray(33)]))).toBe('metadata');
  });
  it('has nothing behind its end, and is whole', async () => {
    for (const form of ['jpeg', 'png', 'webp'] as const) {
      const bytes = await noisy().toFormat(form).toBuffer();
      expect(pictureFault(Buffer.concat([bytes, Buffer.from('PK\u0003\u0004 a program')]))).toBe('more-than-a-picture');
      expect(pictureFault(bytes.subarray(0, bytes.length - 30))).not.toBeNull();
    }
    expect(pictureFault(Buffer.from('GIF89a and some more bytes'))).toBe('not-a-picture');
    expect(pictureFault(Buffer.alloc(3))).toBe('not-a-picture');
    for (let k = 0; k < 300; k += 1)
      expect(pictureFault(Buffer.concat([Buffer.from([0xff, 0xd8]), randomBytes(k)]))).not.toBeNull();
  });
});

/** Why a picture's bytes are not only a picture; null when they are. */
export type PictureFault = 'metadata' | 'more-than-a-picture' | 'not-a-picture';

/** Segments of a JPEG that only tell how it is drawn: tables, frames, scans, and the header that names the format. */
const JPEG_PLAIN = new Set([0xc0, 0xc1, 0xc2, 0xc4, 0xda, 0xdb, 0xdd, 0xe0]);
/** Of colour profiles and of one program's way of colour; they tell of no place and no person. */
const JPEG_COLOUR: readonly [marker: number, begins: string][] = [
  [0xe2, 'ICC_PROFILE'],
  [0xee, 'Adobe'],
];

/** Walks the segments of a JPEG to its end [ITU-T T.81, annex B]. */
function jpegFault(bytes: Buffer): PictureFault | null {
  let at = 2;
  while (at + 4 <= bytes.length) {
    if (bytes[at] !== 0xff) return 'not-a-picture';
    const marker = bytes[at + 1]!;
    if (marker === 0xff) {
      at += 1;
      continue;
    }
    const length = bytes.readUInt16BE(at + 2);
    const colour = JPEG_COLOUR.find(([m]) => m === marker);
    const isColour = colour !== undefined && bytes.toString('latin1', at + 4, at + 4 + colour[1].length) === colour[1];
    if (!JPEG_PLAIN.has(marker) && !isColour) return 'metadata';
    at += 2 + length;
    if (marker !== 0xda) continue;
    // The scan runs on to the next marker that is neither a stuffed byte nor a restart.
    while (at + 1 < bytes.length) {
      const next = bytes[at + 1]!;
      if (bytes[at] === 0xff && next !== 0 && next !== 0xff && !(next >= 0xd0 && next <= 0xd7)) break;
      at += 1;
    }
    if (bytes[at] === 0xff && bytes[at + 1] === 0xd9) return at + 2 === bytes.length ? null : 'more-than-a-picture';
  }
  return 'not-a-picture';
}

/** Parts of a PNG that are the picture itself. */
const PNG_PLAIN = new Set([
  'IHDR',
  'PLTE',
  'IDAT',
  'IEND',
  'tRNS',
  'gAMA',
  'cHRM',
  'sRGB',
  'iCCP',
  'sBIT',
  'pHYs',
  'bKGD',
]);

/** Walks the chunks of a PNG to its end [ISO/IEC 15948]. */
function pngFault(bytes: Buffer): PictureFault | null {
  for (let at = 8; at + 12 <= bytes.length; ) {
    const [length, kind] = [bytes.readUInt32BE(at), bytes.toString('latin1', at + 4, at + 8)];
    if (!PNG_PLAIN.has(kind)) return 'metadata';
    at += 12 + length;
    if (kind === 'IEND') return at === bytes.length ? null : 'more-than-a-picture';
  }
  return 'not-a-picture';
}

/** Parts of a WebP that are. */
const WEBP_PLAIN = new Set(['VP8 ', 'VP8L', 'VP8X', 'ALPH', 'ICCP']);

/** Walks the chunks of a WebP to its end [RFC 9649]. */
function webpFault(bytes: Buffer): PictureFault | null {
  const end = 8 + bytes.readUInt32LE(4);
  if (end < bytes.length) return 'more-than-a-picture';
  let at = 12;
  while (at + 8 <= bytes.length) {
    if (!WEBP_PLAIN.has(bytes.toString('latin1', at, at + 4))) return 'metadata';
    const length = bytes.readUInt32LE(at + 4);
    at += 8 + length + (length % 2);
  }
  return at === bytes.length ? null : 'not-a-picture';
}

/**
 * Whether a file is a picture and nothing else: no data of a camera, a place, an author or a program, no comment, no preview, and
 * nothing behind its end. Told from its own structure; whether it can be drawn is for the decoder to say.
 */
export function pictureFault(bytes: Buffer): PictureFault | null {
  if (bytes.length < 16) return 'not-a-picture';
  if (bytes[0] === 0xff && bytes[1] === 0xd8) return jpegFault(bytes);
  if (bytes.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])))
    return pngFault(bytes);
  const isWebp = bytes.toString('latin1', 0, 4) === 'RIFF' && bytes.toString('latin1', 8, 12) === 'WEBP';
  return isWebp ? webpFault(bytes) : 'not-a-picture';
}

import { sha256Hex } from '@careful-seam/core/log/chain';
import { drawSeamPicture } from '@careful-seam/instruments/simulatedCamera';

/** Bytes of the picture that the demo keeps of whatever the next layer hides: drawn, of no real shower. */
const bytes = await drawSeamPicture({ caption: 'Demo: before the next layer', lapMm: 55, viewMm: 110 });

/** The picture with its hash and size. */
export const HIDDEN_PICTURE = { bytes, use: { hash: sha256Hex(bytes), widthPx: 1280, heightPx: 960, marks: [] } };

import sharp from 'sharp';

/** What the drawn picture shows. Lengths in mm. */
export interface SeamScene {
  caption: string;
  lapMm: number;
  /** Width of view along the seam. */
  viewMm: number;
}

const WIDTH = 1280;
const HEIGHT = 960;
const SIXTEENTH_MM = 25.4 / 16;

function rule(perMm: number, y: number): string {
  const marks: string[] = [];
  for (let i = 0; i <= 40; i += 1) {
    const x = 240 + i * SIXTEENTH_MM * perMm;
    const tall = i % 16 === 0 ? 70 : i % 8 === 0 ? 52 : i % 4 === 0 ? 40 : i % 2 === 0 ? 28 : 18;
    marks.push(`<path d="M${x} ${y}v${tall}" stroke="#222" stroke-width="3"/>`);
    if (i % 16 === 0)
      marks.push(`<text x="${x + 8}" y="${y + 96}" font-size="34" font-family="sans-serif">${i / 16}</text>`);
  }
  return `<rect x="210" y="${y}" width="${44 * SIXTEENTH_MM * perMm}" height="116" fill="#e8d38c" stroke="#7d6a2a" stroke-width="3"/>${marks.join('')}`;
}

/** A drawn picture of a band with a rule laid across its lap, as JPEG without metadata. Plainly a drawing. */
export function drawSeamPicture({ caption, lapMm, viewMm }: SeamScene): Promise<Buffer> {
  const perMm = (WIDTH * 0.8) / viewMm;
  const lap = lapMm * perMm;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="${HEIGHT}">
    <rect width="100%" height="100%" fill="#9b9486"/>
    <rect x="0" y="120" width="${240 + lap}" height="520" fill="#c98f4f"/>
    <rect x="240" y="120" width="${WIDTH - 240}" height="520" fill="#b9713a" opacity="0.75"/>
    <path d="M${240 + lap} 120v520" stroke="#5b3414" stroke-width="6"/>
    <path d="M240 120v520" stroke="#5b3414" stroke-width="6" stroke-dasharray="18 14"/>
    ${rule(perMm, 420)}
    <rect x="0" y="820" width="100%" height="140" fill="#26241f"/>
    <text x="40" y="885" font-size="44" fill="#f3eee2" font-family="sans-serif">${caption}</text>
    <text x="40" y="935" font-size="28" fill="#cfc7b4" font-family="sans-serif">drawn by the simulated camera</text>
  </svg>`;
  return sharp(Buffer.from(svg)).jpeg({ quality: 80 }).toBuffer();
}

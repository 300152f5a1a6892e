import { readFileSync } from 'node:fs';
import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';
import { compression } from 'vite-plugin-compression2';
import { VitePWA } from 'vite-plugin-pwa';

/** The application is kept on the tablet whole: it opens without a network, and a newer one waits until it is asked for. */
const shell = VitePWA({
  registerType: 'prompt',
  injectRegister: false,
  manifest: {
    name: 'Careful Seam',
    short_name: 'Careful Seam',
    description: 'Inspection of shower waterproofing, seam by seam',
    display: 'standalone',
    start_url: '/',
    background_color: '#f6f1e5',
    theme_color: '#f6f1e5',
    icons: [
      { src: '/icon-192.png', sizes: '192x192', type: 'image/png' },
      { src: '/icon-512.png', sizes: '512x512', type: 'image/png', purpose: 'any maskable' },
    ],
  },
  workbox: {
    globPatterns: ['**/*.{html,js,css,svg,png}', 'assets/*latin-wght-normal*.woff2'],
    maximumFileSizeToCacheInBytes: 4_000_000,
    navigateFallback: '/index.html',
    // A homeowner's link has a page of its own.
    globIgnores: ['record.html'],
    navigateFallbackDenylist: [/^\/(api|health|ready|third-party-notices|r\/)/],
    cleanupOutdatedCaches: true,
  },
});

/** What a homeowner's page says: a few texts of a language, by themselves, since the page would wait for all of them. */
const RECORD_TEXTS = 'virtual:record-texts/';
const recordTexts: Plugin = {
  name: 'record-texts',
  resolveId: (id) => (id.startsWith(RECORD_TEXTS) ? `\0${id}` : null),
  load: (id) => {
    if (!id.startsWith(`\0${RECORD_TEXTS}`)) return null;
    const language = id.split('/').at(-1);
    const read = (folder: string) =>
      JSON.parse(readFileSync(new URL(`${folder}/${language}.json`, import.meta.url), 'utf8'));
    const [screens, printed] = [read('src/texts'), read('../words/src/texts')];
    const { links, shared, shower, record } = screens;
    const texts = { links, shared, shower, line: printed.line, record: { ...record, ...printed.record } };
    return `export const texts = ${JSON.stringify(texts)};`;
  },
};

/** Packed once, when it is built, as tightly as it goes: the server hands out what the browser reads. */
const packed = compression({ include: /\.(js|css|html|svg|json)$/, algorithms: ['gzip', 'brotliCompress'] });

export default defineConfig({
  plugins: [react(), tailwind(), recordTexts, shell, packed],
  build: {
    rollupOptions: { input: ['index.html', 'record.html'] },
    outDir: '../dist/web',
    emptyOutDir: true,
    target: 'es2022',
    chunkSizeWarningLimit: 900,
  },
  // For `npm run dev`, which says where the server listens.
  server: { proxy: { '/api': process.env.DEV_API ?? 'http://127.0.0.1:4310' } },
  logLevel: 'warn',
});

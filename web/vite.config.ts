import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { compression } from 'vite-plugin-compression2';
import { VitePWA } from 'vite-plugin-pwa';
import { textParts } from './textParts.ts';

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

/** Packed once, when it is built, as tightly as it goes: the server hands out what the browser reads. */
const packed = compression({ include: /\.(js|css|html|svg|json)$/, algorithms: ['gzip', 'brotliCompress'] });

export default defineConfig({
  plugins: [react(), tailwind(), textParts, shell, packed],
  build: {
    rollupOptions: {
      input: ['index.html', 'record.html'],
      // What every page begins with comes in one piece: each piece costs its head.
      output: {
        advancedChunks: {
          groups: [{ name: 'react', test: /node_modules\/(react|react-dom|scheduler)\/|vite\/preload-helper/ }],
        },
      },
    },
    outDir: '../dist/web',
    emptyOutDir: true,
    target: 'es2022',
    chunkSizeWarningLimit: 900,
  },
  // For `npm run dev`, which says where the server listens.
  server: { proxy: { '/api': process.env.DEV_API ?? 'http://127.0.0.1:4310' } },
  logLevel: 'warn',
});

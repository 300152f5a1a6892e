import { defineConfig } from 'vite';

/** The server as one file: workspace packages are bundled, everything from the registry stays outside. */
export default defineConfig({
  build: {
    ssr: true,
    target: 'node20',
    outDir: '../dist/server',
    emptyOutDir: true,
    sourcemap: true,
    rollupOptions: {
      input: {
        main: 'src/main.ts',
        verify: 'src/verify/main.ts',
        facts: 'src/facts/main.ts',
        backup: 'src/backup/main.ts',
        firstDay: 'src/setUp/main.ts',
        demo: '../demo/src/load/main.ts',
        sumWorker: 'src/sums/sumWorker.ts',
        paperWorker: 'src/papers/paperWorker.ts',
        restoreWorker: 'src/backup/restoreWorker.ts',
      },
    },
  },
  ssr: { noExternal: [/^@careful-seam\//], external: ['sharp', 'pdfkit'] },
  logLevel: 'warn',
});

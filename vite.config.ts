import { fileURLToPath } from 'node:url';
import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** Where `npm run dev` runs the server. */
const SERVER = 'http://127.0.0.1:4300';

/** Shared samples across threads need both headers, in dev as on the real server. */
export const isolationHeaders = {
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
};

export default defineConfig({
  plugins: [react(), tailwind()],
  root: here('./interface'),
  publicDir: here('./interface/public'),
  resolve: {
    alias: {
      '#core': here('./core'),
      '#engine': here('./engine'),
      '#standins': here('./standins'),
      '#interface': here('./interface'),
      '#tests': here('./tests'),
    },
  },
  worker: { format: 'es' },
  build: {
    outDir: here('./dist'),
    // Which file needs which others: what the first paint takes is counted from it.
    manifest: 'manifest.json',
    emptyOutDir: true,
    target: 'es2022',
    chunkSizeWarningLimit: 2000,
    rollupOptions: {
      input: { app: here('./interface/index.html'), watch: here('./interface/watch.html'), audience: here('./interface/audience.html') },
    },
  },
  server: {
    headers: isolationHeaders,
    proxy: Object.fromEntries(
      ['/api', '/ingest', '/live'].map((path) => [
        path,
        // The server refuses foreign origins; in development its own pages come from here.
        { target: SERVER, ws: true, changeOrigin: true, headers: { origin: SERVER } },
      ]),
    ),
  },
});

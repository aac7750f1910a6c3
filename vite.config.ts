import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { brotliCompressSync, gzipSync } from 'node:zlib';
import { defineConfig, type Plugin } from 'vite';

/** Writes each text file compressed beside itself, so that the service sends it without working on it. */
function compressed(): Plugin {
  return {
    name: 'compressed',
    writeBundle({ dir = '' }) {
      for (const name of readdirSync(dir, { recursive: true, encoding: 'utf8' })) {
        if (!/\.(html|js|css|svg)$/.test(name)) continue;
        const content = readFileSync(join(dir, name));
        writeFileSync(join(dir, `${name}.br`), brotliCompressSync(content));
        writeFileSync(join(dir, `${name}.gz`), gzipSync(content, { level: 9 }));
      }
    },
  };
}

/** Where the service is that the console speaks to while it is worked on. */
const SERVICE = process.env['YARDBADGE_URL'] ?? 'http://127.0.0.1:7420';

export default defineConfig({
  root: 'src/console',
  base: '/',
  plugins: [react(), tailwind(), compressed()],
  // `npm run dev`: the console from its source, against a service that runs (CONTRIBUTING.md).
  server: {
    host: '127.0.0.1',
    port: 7421,
    strictPort: true,
    proxy: { '^/api/': { target: SERVICE, changeOrigin: true } },
  },
  // No style element is written by a script: the content policy allows none.
  resolve: {
    alias: {
      'react-style-singleton': fileURLToPath(new URL('src/console/parts/no-style.ts', import.meta.url)),
    },
  },
  build: {
    outDir: '../../dist/console',
    emptyOutDir: true,
    assetsInlineLimit: 0,
    target: 'es2022',
    rollupOptions: {
      // The script of the page behind shared links has one name for good: that page is none of the console’s.
      input: {
        index: fileURLToPath(new URL('src/console/index.html', import.meta.url)),
        shared: fileURLToPath(new URL('src/console/shared-sheet/live.ts', import.meta.url)),
      },
      output: { entryFileNames: ({ name }) => (name === 'shared' ? 'shared.js' : 'assets/[name]-[hash].js') },
    },
  },
});

import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';

/** Where the server is that `./shoal dev` starts. */
const SERVER = process.env.SHOAL_SERVER ?? 'http://127.0.0.1:4870';

export default defineConfig({
  server: {
    proxy: Object.fromEntries(
      ['/api', '/authority.crt'].map((path) => [
        path,
        {
          target: SERVER,
          changeOrigin: true,
          // The server answers its own pages only; in development these come from elsewhere.
          configure: (proxy) => proxy.on('proxyReq', (request) => request.setHeader('origin', SERVER)),
        },
      ]),
    ),
  },
  plugins: [
    react(),
    tailwindcss(),
    VitePWA({
      strategies: 'injectManifest',
      srcDir: 'src/offline',
      filename: 'service-worker.ts',
      injectRegister: false,
      injectManifest: { globPatterns: ['**/*.{js,css,html,woff2,svg,png}'], maximumFileSizeToCacheInBytes: 4e6 },
      manifest: {
        name: 'Restless Shoal',
        short_name: 'Shoal',
        description: 'Log what the sonar shows, see where the boat looked, and where fish will hold.',
        start_url: '/deck',
        display: 'standalone',
        background_color: '#f4f1e8',
        theme_color: '#fffdf6',
        icons: [
          { src: '/icon.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' },
          { src: '/icon-192.png', sizes: '192x192', type: 'image/png', purpose: 'any' },
          { src: '/icon-512.png', sizes: '512x512', type: 'image/png', purpose: 'any maskable' },
        ],
      },
    }),
  ],
  worker: { format: 'es' },
  build: {
    target: 'es2022',
    sourcemap: true,
    chunkSizeWarningLimit: 900,
    rolldownOptions: {
      output: {
        // What every view needs comes in one piece: forty small ones take longer to ask for than to read.
        codeSplitting: {
          groups: [
            {
              name: 'base',
              test: /(web\/src\/(state|api|offline)|web\/src\/parts\/(?!import|water-map|e-chart|echarts|save-file|phone)|core\/src\/(geo|units|species|lake|statements|schema|logbook|numbers)|lucide-react)/,
            },
          ],
        },
      },
    },
  },
});

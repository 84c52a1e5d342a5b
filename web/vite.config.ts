import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';

export default defineConfig({
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
  build: { target: 'es2022', sourcemap: true, chunkSizeWarningLimit: 900 },
});

import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import vue from '@vitejs/plugin-vue'
import { VitePWA } from 'vite-plugin-pwa'
import { defineConfig } from 'vitest/config'

const integrityOf = (file: string) => `sha256-${createHash('sha256').update(readFileSync(file)).digest('base64')}`

export default defineConfig({
  plugins: [
    // As in HTML, a new line between two words is a space: the templates are laid out on that.
    vue({ template: { compilerOptions: { whitespace: 'preserve' } } }),
    VitePWA({
      strategies: 'injectManifest',
      srcDir: 'src/woods',
      filename: 'sw.ts',
      injectRegister: false,
      injectManifest: {
        globPatterns: ['**/*.{js,css,html,woff2,svg,png}'],
        globIgnores: ['**/primeicons-*.svg'], // an old form of a font that comes as woff2 too
        // Each file is known by its digest, so that nothing that answers in its place is kept as it.
        manifestTransforms: [(entries) => ({ manifest: entries.map((e) => ({ ...e, integrity: integrityOf(`dist/${e.url}`) })) })],
      },
      manifest: {
        name: 'Pale Thicket',
        short_name: 'Pale Thicket',
        description: 'Naming leafless trees from partial looks, and keeping the record',
        start_url: '/',
        display: 'standalone',
        background_color: '#f4f1ea',
        theme_color: '#f4f1ea',
        icons: [
          { src: '/twig.svg', sizes: 'any', type: 'image/svg+xml' },
          { src: '/icon-192.png', sizes: '192x192', type: 'image/png' },
          { src: '/icon-512.png', sizes: '512x512', type: 'image/png' },
          { src: '/icon-maskable.png', sizes: '512x512', type: 'image/png', purpose: 'maskable' },
        ],
      },
    }),
  ],
  server: { proxy: { '/api': 'http://127.0.0.1:8080' } },
  build: { chunkSizeWarningLimit: 900 },
  worker: { format: 'es' },
  test: { environment: 'happy-dom', pool: 'threads', isolate: false, silent: 'passed-only' },
})

import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  // As in HTML, a new line between two words is a space: the templates are laid out on that.
  plugins: [vue({ template: { compilerOptions: { whitespace: 'preserve' } } })],
  server: { proxy: { '/api': 'http://127.0.0.1:8080' } },
  build: { chunkSizeWarningLimit: 900 },
  test: { environment: 'happy-dom' },
})

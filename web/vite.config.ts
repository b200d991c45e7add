import vue from '@vitejs/plugin-vue'
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers'
import components from 'unplugin-vue-components/vite'
import { fileURLToPath, URL } from 'node:url'
import { defineConfig } from 'vitest/config'

/** Words that the server says too, in calendars, lie beside what writes them. */
const words = fileURLToPath(new URL('../june_shade/formats/words', import.meta.url))

const SHARED = {
  name: 'shared',
  test: /src[\\/](api|composables|drawing|logic|components[\\/](common|cutaway))[\\/]/,
  minShareCount: 4,
}

export default defineConfig({
  plugins: [vue(), components({ dts: 'src/components.d.ts', dirs: [], resolvers: [ElementPlusResolver()] })],
  resolve: { alias: { '@words': words, '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: { environment: 'node', include: ['tests/**/*.test.ts'], setupFiles: ['tests/setup.ts'] },
  build: {
    target: 'es2022',
    chunkSizeWarningLimit: 900,
    // what several pages share comes in one file, not in twenty small ones each with its own way over the net
    rolldownOptions: { output: { codeSplitting: { groups: [SHARED] } } },
  },
  server: {
    port: 5173,
    proxy: { '/api': { target: process.env.JUNE_API ?? 'http://127.0.0.1:8640', changeOrigin: false } },
    fs: { allow: ['.', words] },
  },
})

import vue from '@vitejs/plugin-vue'
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers'
import components from 'unplugin-vue-components/vite'
import { fileURLToPath, URL } from 'node:url'
import { VitePWA } from 'vite-plugin-pwa'
import { defineConfig } from 'vitest/config'

/** Words that the server says too, in calendars, lie beside what writes them. */
const words = fileURLToPath(new URL('../june_shade/formats/words', import.meta.url))

const SHARED = {
  name: 'shared',
  test: /src[\\/](api|composables|offline|drawing|logic|components[\\/](common|cutaway))[\\/]/,
  minShareCount: 4,
}

/** The program lies on a phone whole; what it asks of the server is kept by the program itself (src/offline). */
const installed = VitePWA({
  registerType: 'prompt',
  injectRegister: false,
  manifest: {
    name: 'June Shade',
    short_name: 'June Shade',
    description: 'Water and mulch for newly planted trees',
    start_url: '/today',
    display: 'standalone',
    background_color: '#F1F5EF',
    theme_color: '#10201A',
    icons: [
      { src: '/icon.svg', sizes: 'any', type: 'image/svg+xml' },
      { src: '/icon-192.png', sizes: '192x192', type: 'image/png' },
      { src: '/icon-512.png', sizes: '512x512', type: 'image/png', purpose: 'any maskable' },
    ],
  },
  workbox: {
    globPatterns: ['**/*.{js,css,html,svg,png,woff2}'],
    navigateFallback: '/index.html',
    navigateFallbackDenylist: [/^\/api\//],
    cleanupOutdatedCaches: true,
    runtimeCaching: [
      {
        urlPattern: /\/api\/pictures\/[^/]+\/file/,
        handler: 'CacheFirst',
        options: { cacheName: 'pictures', expiration: { maxEntries: 200, purgeOnQuotaError: true } },
      },
    ],
  },
})

export default defineConfig({
  plugins: [vue(), components({ dts: 'src/components.d.ts', dirs: [], resolvers: [ElementPlusResolver()] }), installed],
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

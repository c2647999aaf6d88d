import vue from '@vitejs/plugin-vue'
import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vite'

// The server of `make dev`; the built web part is served by the same address.
const server = process.env.PINELEDGER_DEV_SERVER ?? 'http://127.0.0.1:8417'

export default defineConfig({
  plugins: [vue()],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  build: { assetsInlineLimit: 0, chunkSizeWarningLimit: 400 },
  server: { proxy: { '/api': { target: server, changeOrigin: true } } },
})

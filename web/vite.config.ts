import vue from '@vitejs/plugin-vue'
import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vite'

// The server that `make dev` runs beside this one.
const server = `http://127.0.0.1:${process.env.PORT ?? 8417}`

export default defineConfig({
  plugins: [vue()],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  build: {
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 400,
    rolldownOptions: {
      // The worker beside the student's pages has an address of its own that stays.
      input: ['index.html', 'src/offline.ts'],
      output: { entryFileNames: (chunk) => (chunk.name === 'offline' ? 'offline.js' : 'assets/[name]-[hash].js') },
    },
  },
  server: { proxy: { '/api': { target: server, changeOrigin: true }, '/media': { target: server, changeOrigin: true } } },
})

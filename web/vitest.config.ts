import vue from '@vitejs/plugin-vue'
import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [vue()],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    environment: 'happy-dom',
    include: ['src/**/*.spec.ts'],
    // One set of modules for all files is four times as fast. Each test begins with a server and a store of its own,
    // and the order is another one each time, so that none can lean on another.
    isolate: false,
    sequence: { shuffle: true },
    setupFiles: ['src/contract/testSetup.ts'],
    testTimeout: 60_000, // on a loaded machine
  },
})

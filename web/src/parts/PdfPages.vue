<script setup lang="ts">
import { useIntersectionObserver } from '@vueuse/core'
import { getDocument, GlobalWorkerOptions, type PDFDocumentProxy } from 'pdfjs-dist'
import workerAddress from 'pdfjs-dist/build/pdf.worker.min.mjs?url'
import { onBeforeUnmount, ref, shallowRef, watch } from 'vue'

/** The pages of a document, drawn as they come into view; their words are there for a screen reader. */
const props = defineProps<{ hash: string; name: string; pages: number }>()

GlobalWorkerOptions.workerSrc = workerAddress

const scroller = ref<HTMLElement>()
const shown = shallowRef<PDFDocumentProxy>()
const fault = ref('')
const zoom = ref(1)
/** Width and height of the first page, so that pages not yet drawn hold their place. */
const shape = ref({ width: 612, height: 792 })
const words = ref<Record<number, string>>({})

watch(
  () => props.hash,
  async (hash) => {
    fault.value = ''
    await shown.value?.loadingTask.destroy()
    try {
      const document = await getDocument({ url: `/documents/${hash}`, useWasm: false, useSystemFonts: true }).promise
      const { width, height } = (await document.getPage(1)).getViewport({ scale: 1 })
      shape.value = { width, height }
      shown.value = document
    } catch {
      fault.value = 'The document could not be shown. Load the page again.'
    }
  },
  { immediate: true },
)
onBeforeUnmount(() => shown.value?.loadingTask.destroy())

const drawn = new Map<HTMLCanvasElement, string>()
async function draw(canvas: HTMLCanvasElement, n: number) {
  const document = shown.value
  const width = canvas.parentElement?.clientWidth ?? 0
  const wanted = `${props.hash} ${width} ${zoom.value}`
  if (!document || !width || drawn.get(canvas) === wanted) return
  drawn.set(canvas, wanted)
  const page = await document.getPage(n)
  const scale = (width / page.getViewport({ scale: 1 }).width) * window.devicePixelRatio
  const viewport = page.getViewport({ scale })
  canvas.width = viewport.width
  canvas.height = viewport.height
  await page.render({ canvas, viewport }).promise
  const text = await page.getTextContent()
  words.value[n] = text.items.map((i) => ('str' in i ? i.str : '')).join(' ')
}

const seen = new Set<HTMLCanvasElement>()
const canvases = ref<HTMLCanvasElement[]>([])
useIntersectionObserver(
  canvases,
  (entries) => {
    for (const e of entries) {
      const canvas = e.target as HTMLCanvasElement
      if (e.isIntersecting) {
        seen.add(canvas)
        void draw(canvas, Number(canvas.dataset.page))
      } else seen.delete(canvas)
    }
  },
  { root: scroller, rootMargin: '400px' },
)
watch([shown, zoom], () => requestAnimationFrame(() => seen.forEach((c) => void draw(c, Number(c.dataset.page)))))
</script>

<template>
  <section class="document" :aria-label="name">
    <header>
      <span class="name">{{ name }}</span>
      <button type="button" aria-label="Smaller" :disabled="zoom <= 0.6" @click="zoom -= 0.2">−</button>
      <button type="button" aria-label="Larger" :disabled="zoom >= 3" @click="zoom += 0.2">+</button>
    </header>
    <p v-if="fault" role="alert">{{ fault }}</p>
    <div ref="scroller" class="pages" tabindex="0" :aria-label="`Pages of ${name}`">
      <figure v-for="n in pages" :key="n" :style="{ width: `${zoom * 100}%`, aspectRatio: `${shape.width} / ${shape.height}` }">
        <canvas ref="canvases" :data-page="n" aria-hidden="true" />
        <figcaption class="out-of-sight">Page {{ n }}. {{ words[n] }}</figcaption>
      </figure>
    </div>
  </section>
</template>

<style scoped>
.document {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  min-height: 0;
  background: var(--board);
}
header {
  display: flex;
  gap: 6px;
  align-items: center;
  padding: 6px 12px;
  border-bottom: 1px solid var(--rule);
}
.name {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-size: 13px;
}
button {
  width: 30px;
  height: 28px;
  border: 1px solid var(--rule-strong);
  border-radius: 4px;
  background: var(--paper);
  color: inherit;
  font-size: 17px;
  cursor: pointer;
}
:global(.student .document header button) {
  width: 44px;
  height: 44px;
}
.pages {
  overflow: auto;
  padding: 10px;
}
figure {
  margin: 0 auto 10px;
  background: #fff;
  border: 1px solid var(--rule);
}
canvas {
  display: block;
  width: 100%;
}
</style>

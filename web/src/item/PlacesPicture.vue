<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/contract/client'
import { boxAround, percent } from './area'
import { plainWords } from './pairs'

/** The picture on which things to order or to join have their places, each with its short name: what its text begins with. */
const props = defineProps<{ place: Schemas['Interaction'] }>()

const picture = computed(() => props.place.picture!)
const marks = computed(() =>
  [...(props.place.choices ?? []), ...(props.place.targets ?? [])].flatMap((c) => {
    if (!c.area) return []
    const [left, top, right, bottom] = boxAround(c.area)
    return {
      id: c.id,
      name: plainWords(c.html).split('. ')[0],
      style: { left: percent((left + right) / 2, picture.value.width), top: percent((top + bottom) / 2, picture.value.height) },
    }
  }),
)
</script>

<template>
  <div class="picture" :style="{ maxWidth: `${picture.width}px` }">
    <img :src="picture.source" :alt="picture.alt" :width="picture.width" :height="picture.height" draggable="false" />
    <b v-for="m in marks" :key="m.id" class="mark" :style="m.style" aria-hidden="true">{{ m.name }}</b>
  </div>
</template>

<style scoped>
.picture {
  position: relative;
  margin-bottom: 12px;
  border: 1px solid var(--rule-strong);
}
img {
  display: block;
  width: 100%;
  height: auto;
}
.mark {
  position: absolute;
  display: grid;
  place-items: center;
  min-width: 26px;
  height: 26px;
  transform: translate(-50%, -50%);
  border: 2px solid var(--ink);
  border-radius: 50%;
  background: var(--paper);
  color: var(--ink);
  font-size: 15px;
  line-height: 1;
}
</style>

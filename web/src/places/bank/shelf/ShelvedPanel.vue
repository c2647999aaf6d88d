<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { RouterLink } from 'vue-router'
import Note from '@/parts/Note.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, queries, type Schemas } from '@/contract/client'
import { day, plural } from '@/contract/format'
import { keepMedia } from '@/places/write/media'

/** One file: what it is, its alternative text, where it is shown; and another put in its place, with care. */
const props = defineProps<{ hash: string }>()
const emit = defineEmits<{ close: []; changed: [] }>()
const path = { path: { hash: props.hash } }
const key = ['shelved', props.hash]
const use = useQuery({ queryKey: key, queryFn: () => call(api.GET('/shelf/{hash}', { params: path })) })
const f = computed(() => use.data.value?.file)
const picture = computed(() => f.value?.type.startsWith('image/') ?? false)
const name = ref('')
const alt = ref('')
watch(f, (now) => now && ((name.value = now.name), (alt.value = now.alt)), { immediate: true })

const describe = useMutation({
  mutationFn: () =>
    call(
      api.PUT('/shelf/{hash}', {
        params: { ...path, header: { 'If-Match': f.value!.version } },
        body: { name: name.value, alt: alt.value },
      }),
    ),
  onSuccess: (now) => {
    queries.setQueryData(key, now)
    emit('changed')
  },
})

const input = useTemplateRef<HTMLInputElement>('input')
const by = ref<string>()
const outcome = ref<Schemas['Outcome']>()
const replace = useMutation({
  mutationFn: async (apply: boolean) => {
    if (!apply) {
      const file = input.value!.files![0]!
      by.value = (await keepMedia(file)).source.split('/').at(-1)
    }
    return call(api.POST('/shelf/{hash}/replacement', { params: path, body: { by: by.value!, apply } }))
  },
  onSuccess: async (now, applied) => {
    outcome.value = applied ? undefined : now
    if (!applied) return
    await Promise.all(['items', 'item', 'shelved', 'shelf'].map((k) => queries.invalidateQueries({ queryKey: [k] })))
    emit('changed')
  },
})
function size(bytes: number): string {
  return bytes < 1024 ? `${bytes} bytes` : `${Math.round(bytes / 1024)} kB`
}
</script>

<template>
  <SidePanel :title="f?.name ?? 'A file of the shelf'" @close="emit('close')">
    <Trouble :error="use.error.value" />
    <template v-if="f && use.data.value">
      <div class="frame">
        <img v-if="picture" :src="`/media/${f.hash}`" :alt="f.alt" />
        <audio v-else :src="`/media/${f.hash}`" controls />
      </div>
      <p class="soft">
        {{ f.type.split('/')[1]?.replace('+xml', '').toUpperCase() }}{{ picture ? `, ${f.width} × ${f.height} pixels` : '' }},
        {{ size(f.bytes) }}; {{ f.person ? `${f.person}, ` : '' }}{{ day(f.at) }}
      </p>
      <form id="describe" @submit.prevent="describe.mutate()">
        <label class="stack">Name <input v-model="name" class="p-inputtext p-component" maxlength="200" /></label>
        <label v-if="picture" class="stack"
          >Alternative text, for who does not see the picture
          <textarea v-model="alt" rows="3" class="p-textarea p-component" maxlength="1000" />
        </label>
        <p v-if="picture" class="soft">It is offered whenever the picture is added to an item; text already there stays.</p>
        <Trouble :error="describe.error.value" />
        <Button
          type="submit"
          label="Save"
          size="small"
          :disabled="name === f.name && alt === f.alt"
          :loading="describe.isPending.value"
        />
      </form>
      <h3>Where it is shown</h3>
      <p v-if="!f.uses" class="soft">Nowhere yet.</p>
      <ul>
        <li v-for="i in use.data.value.items" :key="i.id">
          <RouterLink :to="`/bank/items/${i.id}`"
            ><span class="mono">{{ i.identifier }}</span> {{ i.stem }}</RouterLink
          >
        </li>
        <li v-for="p in use.data.value.passages" :key="p.id">
          <RouterLink :to="`/bank/passages/${p.id}`">passage: {{ p.title }}</RouterLink>
        </li>
        <li v-if="use.data.value.others" class="soft">
          and {{ plural(use.data.value.others, 'more') }} in banks that are not open to you
        </li>
      </ul>
      <template v-if="use.data.value.items.length">
        <h3>Replace it</h3>
        <p class="soft">
          Items that you may change get a new version that shows the other file. What is placed on assessments keeps its version.
        </p>
        <Button label="Choose the other file" size="small" severity="secondary" outlined @click="input?.click()" />
        <input
          ref="input"
          type="file"
          :accept="picture ? 'image/*' : 'audio/*'"
          class="out-of-sight"
          tabindex="-1"
          aria-label="The other file"
          @change="input?.files?.length && replace.mutate(false)"
        />
        <Trouble :error="replace.error.value" />
        <Note v-if="outcome">
          <p>
            {{ plural(outcome.changes.length, 'item') }} would get a new version{{
              outcome.changes.length ? `: ${outcome.changes.join(', ')}` : ''
            }}.
          </p>
          <ul v-if="outcome.refused.length">
            <li v-for="(r, n) in outcome.refused" :key="n">{{ r.identifier }} stays as it is: {{ r.why }}</li>
          </ul>
          <div class="row">
            <Button
              :label="`Change ${plural(outcome.changes.length, 'item')}`"
              size="small"
              :disabled="!outcome.changes.length"
              :loading="replace.isPending.value"
              @click="replace.mutate(true)"
            />
            <Button label="Cancel" size="small" severity="secondary" text @click="outcome = undefined" />
          </div>
        </Note>
      </template>
    </template>
  </SidePanel>
</template>

<style scoped>
.frame {
  display: grid;
  place-items: center;
  background: var(--board);
  border: 1px solid var(--rule);
  min-height: 90px;
}
img {
  max-width: 100%;
  max-height: 260px;
}
h3 {
  font-size: 12.5px;
  margin: 18px 0 6px;
  border-bottom: 1.5px solid var(--ink);
}
ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
li {
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>

<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, defineAsyncComponent, reactive, watchEffect } from 'vue'
import Note from '@/parts/Note.vue'
import Trouble from '@/parts/Trouble.vue'
import { ProblemError, api, call, queries, type Schemas } from '@/contract/client'
import { languageName, plural } from '@/contract/format'
import * as bankQueries from '@/queries/bank'
import { forget, remembered, remember } from './typed'

const RichText = defineAsyncComponent(() => import('@/places/write/RichText.vue'))

/** A passage while it is written. What is typed stays in this browser until it is kept. */
const props = defineProps<{ detail?: Schemas['PassageDetail'] }>()
const emit = defineEmits<{ kept: [id: number]; leave: [] }>()

const id = props.detail?.passage.id ?? 0
const saved: Schemas['PassageInput'] = {
  identifier: props.detail?.passage.identifier ?? '',
  title: props.detail?.passage.title ?? '',
  body: props.detail?.body ?? '',
  language: props.detail?.passage.language ?? 'en',
  source: props.detail?.passage.source ?? '',
  permission: props.detail?.passage.permission ?? '',
  bank: props.detail?.passage.bank ?? '',
}
const form = reactive<Schemas['PassageInput']>({ ...saved, ...remembered(id, props.detail?.version ?? 0) })
watchEffect(() => remember(id, props.detail?.version ?? 0, { ...form }, saved))

const banks = useQuery(bankQueries.banks)
const names = computed(() =>
  [...new Set([saved.bank, ...(banks.data.value ?? []).filter((b) => b.write).map((b) => b.name)])].filter(Boolean),
)
watchEffect(() => {
  if (!form.bank && names.value.length) form.bank = names.value[0]!
})

const save = useMutation({
  mutationFn: () =>
    props.detail
      ? call(
          api.PUT('/passages/{id}', {
            params: { path: { id }, header: { 'If-Match': props.detail.version } },
            body: form,
          }),
        )
      : call(api.POST('/passages', { body: form })),
  onSuccess: async (now) => {
    forget(id)
    await Promise.all(['passages', 'passage', 'items', 'item'].map((k) => queries.invalidateQueries({ queryKey: [k] })))
    emit('kept', now.passage.id)
  },
})
const problem = (pointer: string) => (save.error.value instanceof ProblemError ? save.error.value.of(pointer) : '')
function leave() {
  forget(id)
  emit('leave')
}
</script>

<template>
  <form class="fields" @submit.prevent="save.mutate()">
    <Note v-if="detail && (detail.drafts || detail.forms)">
      {{ plural(detail.drafts, 'draft') }} will show the new text; {{ plural(detail.forms, 'sealed form') }} keep the text that
      they were sealed with.
    </Note>
    <Trouble :error="save.error.value" />
    <label
      >Title
      <input v-model="form.title" class="p-inputtext p-component" maxlength="200" :aria-invalid="!!problem('/title')" />
      <small v-if="problem('/title')" class="wrong">{{ problem('/title') }}</small>
    </label>
    <div>
      Text
      <RichText v-model="form.body" label="Text" />
      <small v-if="problem('/body')" class="wrong">{{ problem('/body') }}</small>
    </div>
    <div class="pair">
      <label
        >Source
        <input v-model="form.source" class="p-inputtext p-component" maxlength="500" placeholder="author, work, year" />
      </label>
      <label
        >Permission
        <input
          v-model="form.permission"
          class="p-inputtext p-component"
          maxlength="500"
          placeholder="our own, public domain, licensed until …"
        />
      </label>
    </div>
    <div class="pair">
      <label
        >Bank
        <select v-model="form.bank">
          <option v-for="n in names" :key="n" :value="n">{{ n }}</option>
        </select>
        <small v-if="problem('/bank')" class="wrong">{{ problem('/bank') }}</small>
      </label>
      <label
        >Language
        <select v-model="form.language">
          <option v-for="l in ['en', 'es']" :key="l" :value="l">{{ languageName(l) }}</option>
        </select>
      </label>
    </div>
    <div class="row">
      <Button type="submit" label="Save" :loading="save.isPending.value" />
      <Button label="Cancel" severity="secondary" text @click="leave" />
    </div>
  </form>
</template>

<style scoped>
.fields {
  max-width: 820px;
  display: grid;
  gap: 12px;
}
label > :not(small) {
  display: block;
  width: 100%;
  margin-top: 3px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
.wrong {
  color: var(--brick);
}
@media (max-width: 860px) {
  .pair {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, reactive, ref, watch } from 'vue'
import Note from '@/parts/Note.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import { gradeName, languageName, plural } from '@/contract/format'
import * as bankQueries from '@/queries/bank'
import { useSubjects } from '@/queries/useSubjects'
import Differences from './item/Differences.vue'
import { refreshItems } from './useItem'

/** Metadata of many items changed at once: first what it comes to, then done, then undone if one likes. */
const props = defineProps<{ items: number[] }>()
const emit = defineEmits<{ close: []; done: [] }>()

/** undefined leaves a field as it is. */
const change = reactive<Schemas['MetaChange']>({})
const course = ref('')
const align = ref('')
const unalign = ref('')
const codes = (text: string) =>
  text
    .split(/[\s,;]+/)
    .map((c) => c.trim())
    .filter(Boolean)
const body = computed(() => ({
  items: props.items,
  change: { ...change, course: course.value.trim() || undefined, align: codes(align.value), unalign: codes(unalign.value) },
}))
const subjects = useSubjects()
const banks = useQuery(bankQueries.banks)
const writable = computed(() => (banks.data.value ?? []).filter((b) => b.write))
const grades = ['KG', '01', '02', '03', '04', '05', '06', '07', '08', '09', '10', '11', '12']

const outcome = ref<Schemas['BulkOutcome']>()
const undone = ref<Schemas['BulkOutcome']>()
watch(body, () => (outcome.value = outcome.value?.id ? outcome.value : undefined), { deep: true })
const run = useMutation({
  mutationFn: (apply: boolean) => call(api.POST('/item-changes', { body: { ...body.value, apply } })),
  onSuccess: async (now, applied) => {
    outcome.value = now
    if (applied) await refreshItems()
  },
})
const undo = useMutation({
  mutationFn: (id: number) => call(api.DELETE('/item-changes/{id}', { params: { path: { id } } })),
  onSuccess: async (now) => {
    undone.value = now
    await refreshItems()
  },
})
const refused = computed(() => (undone.value ?? outcome.value)?.rows.filter((r) => r.why) ?? [])
</script>

<template>
  <SidePanel :title="`Change ${plural(items.length, 'item')}`" width="max(520px, 42vw)" @close="emit('close')">
    <form v-if="!outcome?.id" id="bulk" @submit.prevent="run.mutate(false)">
      <p class="soft">Only what you change here changes. Each item gets a new version; items already placed keep theirs.</p>
      <div class="pair">
        <label
          >Subject
          <select v-model="change.subject">
            <option :value="undefined">as it is</option>
            <option v-for="s in subjects" :key="s.value" :value="s.value">{{ s.label }}</option>
          </select></label
        >
        <label
          >Grade
          <select v-model="change.grade">
            <option :value="undefined">as it is</option>
            <option v-for="g in grades" :key="g" :value="g">{{ gradeName(g) }}</option>
          </select></label
        >
        <label
          >Depth of knowledge
          <select v-model="change.depth">
            <option :value="undefined">as it is</option>
            <option v-for="d in 4" :key="d" :value="d">{{ d }}</option>
            <option :value="0">not set</option>
          </select></label
        >
        <label
          >Language
          <select v-model="change.language">
            <option :value="undefined">as it is</option>
            <option v-for="l in ['en', 'es']" :key="l" :value="l">{{ languageName(l) }}</option>
          </select></label
        >
        <label
          >Bank
          <select v-model="change.bank">
            <option :value="undefined">as it is</option>
            <option v-for="b in writable" :key="b.id" :value="b.name">{{ b.name }}</option>
          </select></label
        >
        <label>Course <input v-model="course" class="p-inputtext p-component" maxlength="100" placeholder="as it is" /></label>
        <label
          >Align to <input v-model="align" class="p-inputtext p-component" maxlength="500" placeholder="codes, such as M6.RR.3a"
        /></label>
        <label
          >Take alignment off <input v-model="unalign" class="p-inputtext p-component" maxlength="500" placeholder="codes"
        /></label>
      </div>
    </form>
    <Trouble :error="run.error.value ?? undo.error.value" />
    <section v-if="outcome" aria-live="polite">
      <p v-if="undone">
        <strong>Undone: {{ plural(undone.changed, 'item') }} as before.</strong>
        {{ undone.refused ? `${undone.refused} stay.` : '' }}
      </p>
      <p v-else>
        <strong
          >{{ plural(outcome.changed, 'item') }}
          {{ outcome.id ? (outcome.changed === 1 ? 'has' : 'have') + ' changed' : 'will change' }}</strong
        >, {{ outcome.unchanged }} {{ outcome.unchanged === 1 ? 'is' : 'are' }} so already, {{ outcome.refused }}
        {{ outcome.refused === 1 ? 'stays' : 'stay' }} as {{ outcome.refused === 1 ? 'it is' : 'they are' }}.
        <Button
          v-if="outcome.id"
          label="Undo"
          size="small"
          severity="secondary"
          outlined
          :loading="undo.isPending.value"
          @click="undo.mutate(outcome.id)"
        />
      </p>
      <Note v-if="refused.length">
        <div v-for="r in refused.slice(0, 20)" :key="r.identifier">
          <span class="mono">{{ r.identifier }}</span> {{ r.why }}
        </div>
      </Note>
      <ol v-if="!outcome.id">
        <li v-for="r in outcome.rows.filter((x) => !x.why).slice(0, 60)" :key="r.identifier">
          <p>
            <span class="mono">{{ r.identifier }}</span> <span class="soft">{{ r.stem }}</span>
          </p>
          <Differences :list="r.changes" />
        </li>
      </ol>
    </section>
    <template #footer>
      <div class="row">
        <template v-if="!outcome?.id">
          <Button
            type="submit"
            form="bulk"
            label="See what changes"
            severity="secondary"
            outlined
            :loading="run.isPending.value"
          />
          <Button
            :label="outcome ? `Change ${plural(outcome.changed, 'item')}` : 'Change'"
            :disabled="!outcome?.changed"
            :loading="run.isPending.value"
            @click="run.mutate(true)"
          />
        </template>
        <Button v-else label="Done" @click="emit('done')" />
      </div>
    </template>
  </SidePanel>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px 14px;
  margin-bottom: 12px;
}
label > * {
  display: block;
  width: 100%;
  margin-top: 3px;
}
ol {
  list-style: none;
  padding: 0;
  border-top: 1.5px solid var(--ink);
}
li {
  padding: 6px 0;
  border-bottom: 1px solid var(--rule);
}
li p {
  margin: 0 0 2px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
@media (max-width: 860px) {
  .pair {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

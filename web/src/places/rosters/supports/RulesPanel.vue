<script setup lang="ts">
import { IconTrash } from '@tabler/icons-vue'
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, nextTick, ref, watch } from 'vue'
import Choose from '@/parts/Choose.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, ProblemError, queries, type Schemas } from '@/contract/client'
import { capital } from '@/contract/format'
import * as supportQueries from '@/queries/supports'

/** The district's rules of what a support would break: coordinators are asked for a reason before it is given. */
type Rule = Schemas['ConstructRule']
const emit = defineEmits<{ close: [] }>()
const query = useQuery({ ...supportQueries.district, staleTime: 0 })
const catalog = useQuery(supportQueries.catalog)
const rules = ref<Rule[]>([])
/** The rules as they were looked at, so that nobody's change is lost. */
const was = ref<Rule[]>()
watch(
  query.data,
  (now) => {
    if (!now || was.value) return
    was.value = now.rules
    rules.value = now.rules.map((r) => ({ ...r }))
  },
  { immediate: true },
)
const may = computed(() => query.data.value?.mayChange ?? false)
const supports = computed(() => (catalog.data.value ?? []).map((s) => ({ value: s.key, label: s.name })))
const inParts = (key: string) => catalog.data.value?.find((s) => s.key === key)?.kind.type === 'picks'
const parts = computed(() => [
  { value: '', label: 'all of it' },
  ...(query.data.value?.parts ?? []).map((p) => ({ value: p.value, label: p.words })),
])
const subjects = computed(() => [
  { value: '', label: 'every subject' },
  ...(query.data.value?.subjects ?? []).map((s) => ({ value: s, label: capital(s) })),
])
const list = ref<HTMLElement>()
async function add() {
  rules.value.push({ support: supports.value[0]!.value, part: '', subject: '', standard: '', why: '' })
  await nextTick()
  list.value?.querySelector<HTMLElement>('li:last-child select')?.focus()
}
function choose(r: Rule, key: string | undefined) {
  r.support = key!
  if (!inParts(r.support)) r.part = ''
}
const save = useMutation({
  mutationFn: () => call(api.PUT('/supports/rules', { body: { rules: rules.value, was: was.value! } })),
  onSuccess: (now) => {
    queries.setQueryData(supportQueries.district.queryKey, now)
    void queries.invalidateQueries({ queryKey: ['support-matrix'] })
    emit('close')
  },
})
const problem = (row: number, field: keyof Rule) =>
  save.error.value instanceof ProblemError ? save.error.value.of(`/rules/${row}/${field}`) : ''
const fields = ['support', 'part', 'subject', 'standard', 'why'] as const
const wrong = (row: number) => fields.map((f) => problem(row, f)).find(Boolean)
</script>

<template>
  <SidePanel title="What supports break" width="max(560px, 46vw)" @close="emit('close')">
    <p class="soft">
      Where a support would do for a student what an item measures, it is kept back until a coordinator allows it with a reason;
      the result is then marked <em>not comparable</em>. A change holds for who begins from now on.
    </p>
    <ol ref="list">
      <li v-for="(r, i) in rules" :key="i" :class="{ wrong: wrong(i) }">
        <div class="row">
          <Choose
            :model-value="r.support"
            :options="supports"
            :disabled="!may"
            :aria-label="`Rule ${i + 1}, support`"
            @update:model-value="(key) => choose(r, key)"
          />
          <Choose
            v-if="inParts(r.support)"
            v-model="r.part"
            :options="parts"
            :disabled="!may"
            :aria-label="`Rule ${i + 1}, part`"
          />
          <span>in</span>
          <Choose v-model="r.subject" :options="subjects" :disabled="!may" :aria-label="`Rule ${i + 1}, subject`" />
          <Button v-if="may" text severity="secondary" :aria-label="`Delete rule ${i + 1}`" @click="rules.splice(i, 1)">
            <IconTrash :size="16" aria-hidden="true" />
          </Button>
        </div>
        <div class="row">
          <InputText
            v-model="r.standard"
            class="code"
            placeholder="any standard"
            maxlength="60"
            :disabled="!may"
            :aria-label="`Rule ${i + 1}, standard or the beginning of its code`"
          />
          <InputText
            v-model="r.why"
            class="why"
            placeholder="What it breaks, in a sentence"
            maxlength="200"
            :disabled="!may"
            :aria-label="`Rule ${i + 1}, what it breaks`"
          />
        </div>
        <p v-if="wrong(i)" class="brick">{{ wrong(i) }}</p>
      </li>
    </ol>
    <Button v-if="may" label="Add a rule" size="small" severity="secondary" outlined :disabled="!supports.length" @click="add" />
    <template v-if="may" #footer>
      <Trouble v-if="!rules.some((_, i) => wrong(i))" :error="save.error.value" />
      <Button label="Save" :loading="save.isPending.value" @click="save.mutate()" />
    </template>
  </SidePanel>
</template>

<style scoped>
ol {
  margin: 0 0 12px;
  padding: 0;
  list-style: none;
}
li {
  padding: 8px 0;
  border-bottom: 1px solid var(--rule);
}
li.wrong {
  border-left: 3px solid var(--brick);
  padding-left: 8px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
  margin-bottom: 6px;
}
.row :deep(select) {
  max-width: 170px;
}
.code {
  width: 130px;
}
.row .why {
  flex: 1;
}
.row button {
  margin-left: auto;
}
.brick {
  margin: 4px 0 0;
  color: var(--brick);
}
</style>

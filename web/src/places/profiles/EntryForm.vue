<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref, watch } from 'vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import { capital } from '@/contract/format'
import * as supportQueries from '@/queries/supports'
import { beginning, grouped, provider, type Entry } from './profiles'
import SupportField from './SupportField.vue'

/** One support as it is entered, for one student or for many at once. */
const props = defineProps<{ students: number[]; grounds: string[]; known: string[]; entry?: Entry }>()
const emit = defineEmits<{ done: []; cancel: [] }>()
const catalog = useQuery(supportQueries.catalog)
const key = ref(props.entry?.key ?? 'extraTime')
const support = computed(() => catalog.data.value?.find((s) => s.key === key.value))
const value = ref<unknown>(props.entry?.value)
const ground = ref(props.entry?.ground ?? '')
const subjects = ref<string[]>([...(props.entry?.subjects ?? [])])
const from = ref(props.entry?.from ?? '')
const to = ref(props.entry?.to ?? '')
watch(
  support,
  (now, before) => {
    if (now && (before || value.value === undefined)) value.value = beginning(now)
  },
  { immediate: true },
)
const enter = useMutation({
  mutationFn: () =>
    call(
      api.POST('/profile-entries', {
        body: {
          students: props.students,
          key: key.value,
          value: value.value,
          ground: ground.value,
          subjects: subjects.value,
          from: from.value,
          to: to.value,
          ...(props.entry && { replaces: props.entry.id }),
        },
      }),
    ),
  onSuccess: () => emit('done'),
})
const toggle = (s: string) =>
  (subjects.value = subjects.value.includes(s) ? subjects.value.filter((o) => o !== s) : [...subjects.value, s])
</script>

<template>
  <form @submit.prevent="enter.mutate()">
    <label class="field" for="support-key">Support</label>
    <select id="support-key" v-model="key" :disabled="!!entry">
      <optgroup v-for="[group, list] in grouped(catalog.data.value ?? [])" :key="group" :label="group">
        <option v-for="s in list" :key="s.key" :value="s.key">{{ s.name }}</option>
      </optgroup>
    </select>
    <template v-if="support">
      <p class="soft">
        {{ support.does }} {{ capital(provider[support.by]) }}.<template v-if="support.needs">
          Needs: {{ support.needs }}</template
        >
      </p>
      <SupportField v-model="value" :support="support" />
    </template>
    <label class="field" for="support-ground">On what ground</label>
    <select id="support-ground" v-model="ground">
      <option value="">not said</option>
      <option v-for="g in grounds" :key="g" :value="g">{{ g }}</option>
    </select>
    <fieldset class="dates">
      <legend>For how long</legend>
      <label>From <InputText v-model="from" type="date" /></label>
      <label>to <InputText v-model="to" type="date" /></label>
      <span class="soft">Leave the last day empty until it is ended by hand.</span>
    </fieldset>
    <fieldset>
      <legend>In which subjects</legend>
      <span class="soft">None chosen: in all.</span>
      <label v-for="s in known" :key="s" class="option">
        <input type="checkbox" :checked="subjects.includes(s)" @change="toggle(s)" />{{ capital(s) }}
      </label>
    </fieldset>
    <Trouble :error="enter.error.value ?? undefined" />
    <div class="row">
      <Button
        type="submit"
        :label="students.length > 1 ? `Add for ${students.length} students` : entry ? 'Save changes' : 'Add it'"
        :loading="enter.isPending.value"
      />
      <Button label="Cancel" severity="secondary" outlined @click="emit('cancel')" />
    </div>
  </form>
</template>

<style scoped>
form {
  border: 1px solid var(--rule-strong);
  padding: 12px 14px;
  margin: 10px 0;
}
.field {
  display: block;
  font-weight: 600;
  margin-top: 8px;
}
p {
  margin: 6px 0 0;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 12px 0 0;
}
legend {
  font-weight: 600;
  padding: 0;
}
.dates {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: center;
}
.option {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  min-height: 28px;
  margin-right: 16px;
}
input[type='checkbox'] {
  accent-color: var(--pine);
  width: 16px;
  height: 16px;
}
.row {
  margin-top: 12px;
}
</style>

<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { RouterLink } from 'vue-router'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import { gradesName, plural } from '@/contract/format'
import { dayOf, monthOf } from './calendar'

/** What was given in twelve months, to be given again a year later: looked at first, then drafts with their dates. */
const props = defineProps<{ from: string; to: string; school: number; subject: string }>()
const emit = defineEmits<{ close: [] }>()
const ask = (distributions: number[], apply: boolean) =>
  call(api.POST('/calendar/next-year', { body: { ...props, distributions, apply } }))
const look = useQuery({ queryKey: computed(() => ['next-year', { ...props }]), queryFn: () => ask([], false) })
const list = computed(() => look.data.value ?? [])
const chosen = ref<number[]>([])
watch(list, (now) => (chosen.value = now.map((n) => n.distributionId)), { immediate: true })
const copy = useMutation({ mutationFn: () => ask(chosen.value, true) })
const anew = computed(() => copy.data.value?.filter((n) => n.anew).length ?? 0)
</script>

<template>
  <SidePanel title="Copy to the next year" @close="emit('close')">
    <template v-if="copy.data.value">
      <p role="status">
        {{ plural(copy.data.value.length, 'draft') }} with {{ copy.data.value.length === 1 ? 'its' : 'their' }} dates
        {{ copy.data.value.length === 1 ? 'is' : 'are' }} made.
        <template v-if="anew">For {{ anew }} of them choose whom anew.</template>
      </p>
      <ul>
        <li v-for="n in copy.data.value" :key="n.distributionId">
          <RouterLink :to="`/assessments/${n.copyId}/distribution`">{{ n.title }}</RouterLink><br />{{ dayOf(n.from) }} to
          {{ dayOf(n.to) }}, {{ n.to.slice(0, 4) }}
        </li>
      </ul>
    </template>
    <template v-else>
      <p class="soft">
        What was given from {{ monthOf(from) }} {{ from.slice(0, 4) }} to {{ monthOf(to) }} {{ to.slice(0, 4) }}, on the same
        weekdays a year later; where there is no school, on the next school day. Rules of whom it goes to go along, sections and
        names do not.
      </p>
      <p v-if="look.isSuccess.value && !list.length">Nothing was given in these months.</p>
      <ul v-else>
        <li v-for="n in list" :key="n.distributionId">
          <label
            ><input v-model="chosen" type="checkbox" :value="n.distributionId" /><span
              ><strong>{{ n.title }}</strong
              >, {{ gradesName(n.grades) }}<br /><s>{{ dayOf(n.fromWas) }} to {{ dayOf(n.toWas) }}</s> {{ dayOf(n.from) }} to
              {{ dayOf(n.to) }}, {{ n.to.slice(0, 4)
              }}<span v-if="n.anew" class="soft block">Whom has to be chosen anew.</span></span
            ></label
          >
        </li>
      </ul>
    </template>
    <Trouble :error="look.error.value ?? copy.error.value" />
    <template v-if="list.length && !copy.data.value" #footer>
      <Button
        :label="`Copy ${plural(chosen.length, 'assessment')}`"
        :disabled="!chosen.length"
        :loading="copy.isPending.value"
        @click="copy.mutate()"
      />
    </template>
  </SidePanel>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin: 16px 0;
  border-top: 1.5px solid var(--ink);
}
li {
  padding: 8px 0;
  border-bottom: 1px solid var(--rule);
}
label {
  display: grid;
  grid-template-columns: 22px 1fr;
}
input {
  margin-top: 5px;
  accent-color: var(--pine);
}
.block {
  display: block;
}
</style>

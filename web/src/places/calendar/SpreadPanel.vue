<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, queries } from '@/contract/client'
import { gradesName, plural } from '@/contract/format'
import { dayOf } from './calendar'

/** Dates for what is only planned, so that two windows of one grade do not follow one another at once. */
const props = defineProps<{ from: string; to: string; school: number; subject: string }>()
const emit = defineEmits<{ close: []; changed: []; moved: [distributions: number[]] }>()
const distance = ref(5)
const spread = useMutation({
  mutationFn: (apply: boolean) => call(api.POST('/calendar/spread', { body: { ...props, distance: distance.value, apply } })),
  onSuccess: async (done, apply) => {
    if (!apply) return
    await queries.invalidateQueries({ queryKey: ['distribution'] })
    emit('changed')
    emit(
      'moved',
      done.filter((s) => s.from !== s.fromWas).map((s) => s.distributionId),
    )
    emit('close')
  },
})
const list = computed(() => spread.data.value)
const moving = computed(() => list.value?.filter((s) => s.from !== s.fromWas).length ?? 0)
</script>

<template>
  <SidePanel title="Spread them out" @close="emit('close')">
    <p class="soft">
      Planned windows that are yours move, as little as they can, until two of one grade are this far apart. What is out stays.
    </p>
    <form @submit.prevent="spread.mutate(false)">
      <label class="stack"
        >School days between two windows
        <input v-model.number="distance" class="p-inputtext p-component" type="number" min="0" max="60" required />
      </label>
      <Button type="submit" label="Propose dates" size="small" :loading="spread.isPending.value" />
    </form>
    <Trouble :error="spread.error.value" />
    <template v-if="list">
      <p v-if="!list.length">No planned window lies in these months.</p>
      <ul v-else>
        <li v-for="s in list" :key="s.distributionId">
          <strong>{{ s.title }}</strong>, {{ gradesName(s.grades) }}<br />
          <template v-if="s.from === s.fromWas">stays, {{ dayOf(s.from) }}</template>
          <template v-else
            ><s>{{ dayOf(s.fromWas) }} to {{ dayOf(s.toWas) }}</s> {{ dayOf(s.from) }} to {{ dayOf(s.to) }}</template
          >
          <span v-if="!s.kept" class="resin block"
            >Only {{ plural(s.nearest, 'school day') }} from the next: there is no room for more.</span
          >
          <span v-else-if="s.nearest >= 0" class="soft block"
            >{{ plural(s.nearest, 'school day') }} from the next of its grade</span
          >
        </li>
      </ul>
      <Button
        v-if="moving"
        :label="`Move ${plural(moving, 'window')}`"
        :loading="spread.isPending.value"
        @click="spread.mutate(true)"
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
.block {
  display: block;
}
</style>

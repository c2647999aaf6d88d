<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed } from 'vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import SidePanel from '@/parts/SidePanel.vue'
import StateTag from '@/parts/StateTag.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import { plural, timeOrDay } from '@/contract/format'
import * as roomQueries from '@/queries/rooms'

/** What students answered and their devices brought only after the hand-in: it counts where the teacher says so. */
const props = defineProps<{ sitting: number }>()
const emit = defineEmits<{ close: [] }>()
const queries = useQueryClient()
const late = useQuery(roomQueries.late(computed(() => props.sitting)))

const decide = useMutation({
  mutationFn: ({ attempt, count }: { attempt: number; count: boolean }) =>
    call(
      api.PUT('/sittings/{id}/late-answers/{attempt}', {
        params: { path: { id: props.sitting, attempt } },
        body: { count },
      }),
    ),
  onSuccess: (now) => {
    queries.setQueryData(roomQueries.late(props.sitting).queryKey, now)
    void queries.invalidateQueries({ queryKey: ['room'] })
  },
})
const said = (values: string[]) => values.join(', ') || 'no answer'
</script>

<template>
  <SidePanel title="Late answers" width="max(520px, 44vw)" @close="emit('close')">
    <p>
      These were answered on a device that could not reach the server before the time was over. Nothing of them counts until you
      say so. What you count adds a score; the score of the hand-in stays on record.
    </p>
    <Trouble :error="late.error.value ?? decide.error.value" />
    <section v-for="s in late.data.value" :key="s.attemptId" :aria-label="s.student">
      <h3>
        {{ s.student }} <StateTag v-if="s.decided" :state="s.counts ? 'counted' : 'left out'" :tone="s.counts ? 'go' : 'quiet'" />
      </h3>
      <LedgerTable :label="`Late answers of ${s.student}`">
        <thead>
          <tr>
            <th class="num">Item</th>
            <th>Handed in</th>
            <th class="double">Came late</th>
            <th>Answered</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="l in s.lines" :key="l.line">
            <td class="num">{{ l.line }}</td>
            <td class="cut" :title="said(l.before)">{{ said(l.before) }}</td>
            <td class="cut double" :title="said(l.came)">{{ said(l.came) }}</td>
            <td>
              <template v-if="l.inTime">{{ timeOrDay(l.at) }}, in time</template>
              <span v-else class="resin">after the end</span>
            </td>
          </tr>
        </tbody>
      </LedgerTable>
      <p class="soft">Handed in {{ timeOrDay(s.handedInAt) }}. Times are those of the student’s device.</p>
      <div v-if="!s.counts" class="row">
        <Button
          :label="`Count ${plural(s.lines.length, 'answer')}`"
          size="small"
          :disabled="decide.isPending.value"
          @click="decide.mutate({ attempt: s.attemptId, count: true })"
        />
        <Button
          v-if="!s.decided"
          label="Leave out"
          size="small"
          severity="secondary"
          outlined
          :disabled="decide.isPending.value"
          @click="decide.mutate({ attempt: s.attemptId, count: false })"
        />
      </div>
    </section>
  </SidePanel>
</template>

<style scoped>
section {
  margin: 16px 0 24px;
}
h3 {
  margin: 0 0 6px;
}
</style>

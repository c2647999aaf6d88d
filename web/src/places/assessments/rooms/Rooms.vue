<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import Note from '@/parts/Note.vue'
import PageHead from '@/parts/PageHead.vue'
import StateTag from '@/parts/StateTag.vue'
import { useIntervalFn } from '@vueuse/core'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import { plural, windowOf } from '@/contract/format'
import { useOpenSheet } from '@/places/assessments/sheet/open'

const { sheet, query } = useOpenSheet()
const router = useRouter()
useIntervalFn(() => query.refetch(), 8_000)
/** The rooms of a school, or of all. */
const school = ref('')
const schools = computed(() => [...new Set(sheet.value.sittings.map((s) => s.school))])
const shown = computed(() => sheet.value.sittings.filter((s) => !school.value || s.school === school.value))
const open = computed(() => shown.value.filter((s) => s.door === 'open' || s.door === 'paused'))
const working = computed(() => open.value.reduce((n, s) => n + s.begun - s.done, 0))
const asking = ref(false)
const close = useMutation({
  mutationFn: () => call(api.PUT('/doors', { body: { door: 'closed', sittings: open.value.map((s) => s.id) } })),
  onSuccess: async () => {
    asking.value = false
    await query.refetch()
  },
})
const tone = (door: string) => (door === 'open' ? 'go' : door === 'paused' ? 'caution' : 'quiet')
</script>

<template>
  <div class="page">
    <PageHead title="Rooms" note="One sitting for each section. Its door is its teacher's to open and close.">
      <template v-if="sheet.sittings.length">
        <label v-if="schools.length > 1"
          >School
          <select v-model="school">
            <option value="">all schools</option>
            <option v-for="s in schools" :key="s">{{ s }}</option>
          </select>
        </label>
        <RouterLink :to="`/assessments/${sheet.id}/progress`">How far they are</RouterLink>
        <Button
          v-if="open.length && sheet.maySend"
          label="Close the doors"
          size="small"
          severity="secondary"
          outlined
          @click="asking = true"
        />
      </template>
    </PageHead>
    <Trouble :error="close.error.value" />
    <Note v-if="asking">
      <p>
        This closes {{ plural(open.length, 'room') }}{{ school ? ` at ${school}` : '' }};
        {{ working ? `${plural(working, 'student')} are working.` : 'nobody is working.' }} What they have done is kept, and a
        door that opens again lets them go on.
      </p>
      <div class="row">
        <Button
          :label="`Close ${plural(open.length, 'door')}`"
          size="small"
          :loading="close.isPending.value"
          @click="close.mutate()"
        />
        <Button label="Cancel" size="small" severity="secondary" text @click="asking = false" />
      </div>
    </Note>
    <Empty
      v-if="!sheet.sittings.length"
      text="Nothing has been sent yet. Each section that gets this assessment will have its room here."
    />
    <LedgerTable v-else label="Sittings" banded>
      <thead>
        <tr>
          <th>School</th>
          <th>Section</th>
          <th>Window</th>
          <th>Door</th>
          <th class="num">Students</th>
          <th class="num">Begun</th>
          <th class="num double">Handed in</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(s, i) in shown" :key="s.id" :tabindex="i ? -1 : 0" @click="router.push(`/rooms/${s.id}`)">
          <td>{{ s.school }}</td>
          <td>
            <RouterLink :to="`/rooms/${s.id}`" tabindex="-1">{{ s.section }}</RouterLink>
          </td>
          <td>{{ windowOf(s.opensAt, s.closesAt) }}</td>
          <td><StateTag :state="s.door" :tone="tone(s.door)" /></td>
          <td class="num">{{ s.seats }}</td>
          <td class="num">{{ s.begun }}</td>
          <td class="num double">{{ s.done }}</td>
        </tr>
      </tbody>
    </LedgerTable>
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
  overflow: auto;
}
</style>

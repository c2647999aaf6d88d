<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import LedgerTable from '@/parts/LedgerTable.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import { useOpenSheet } from '@/places/assessments/sheet/open'

/** Where the cuts of this form lie on its twins: by the same percent, and where students of the same ability are expected. */
const { sheet } = useOpenSheet()
const query = useQuery({
  queryKey: ['twin-cuts', computed(() => sheet.value.id), computed(() => sheet.value.version)],
  queryFn: () => call(api.GET('/assessments/{id}/twin-cuts', { params: { path: { id: sheet.value.id } } })),
})
const forms = computed(() => query.data.value ?? [])
const differs = (c: { percent?: number; ability?: number }) => c.ability !== undefined && c.ability !== c.percent
</script>

<template>
  <Trouble :error="query.error.value" />
  <section v-if="forms.length > 1" aria-labelledby="twins">
    <h2 id="twins">The same cuts on twin forms</h2>
    <div class="rows">
      <LedgerTable label="Cuts on twin forms">
        <thead>
          <tr>
            <th rowspan="2">Band</th>
            <th v-for="f in forms" :key="f.id" colspan="2" class="double">
              <RouterLink v-if="f.id !== sheet.id" :to="`/assessments/${f.id}/cuts`">Form {{ f.letter }}</RouterLink>
              <template v-else>Form {{ f.letter }}, this one</template>, {{ f.total }} points
            </th>
          </tr>
          <tr>
            <template v-for="f in forms" :key="f.id">
              <th class="num double">Same percent</th>
              <th class="num" title="The score that students of the same ability are expected to get on this form">
                Same ability
              </th>
            </template>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(c, i) in forms[0]!.cuts" :key="c.band">
            <td>{{ c.band }}</td>
            <template v-for="f in forms" :key="f.id">
              <td class="num double">{{ f.cuts[i]?.percent ?? '–' }}</td>
              <td class="num" :class="{ resin: f.cuts[i] && differs(f.cuts[i]!) }">{{ f.cuts[i]?.ability ?? '–' }}</td>
            </template>
          </tr>
        </tbody>
      </LedgerTable>
    </div>
    <p class="soft">Where the two differ, the forms are not equally hard at that cut.</p>
  </section>
</template>

<style scoped>
section {
  margin-top: 18px;
}
h2 {
  margin: 0 0 6px;
  font: 600 14px var(--sans);
}
.rows {
  overflow-x: auto;
}
</style>

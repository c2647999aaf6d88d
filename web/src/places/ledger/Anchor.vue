<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import { moment } from '@/contract/format'
import { useSession } from '@/contract/session'

/** The ledger's last entry, for paper that is kept elsewhere: whoever writes the ledger anew cannot write that anew. */
const { session } = useSession()
const query = useQuery({
  queryKey: ['ledger', 'last'],
  queryFn: () => call(api.GET('/ledger', { params: { query: { limit: 1 } } })),
})
const last = computed(() => query.data.value?.[0])
const groups = computed(() => last.value?.hash.match(/.{8}/g) ?? [])
const print = () => window.print()
</script>

<template>
  <main class="sheet">
    <div class="row bar">
      <RouterLink to="/ledger">Back to the ledger</RouterLink>
      <Button v-if="last" label="Print" size="small" @click="print" />
    </div>
    <Trouble :error="query.error.value" />
    <Empty v-if="query.data.value && !last" text="Nothing has happened yet: the ledger has no entry." />
    <article v-if="last">
      <h1>The ledger as it stood</h1>
      <p>
        {{ session?.district }}, {{ moment(last.at) }}. Entry <strong>{{ last.number }}</strong>:
        {{ last.actor || 'Pine Ledger' }} {{ last.did }} {{ last.title }}.
      </p>
      <h2>Its hash</h2>
      <p class="mono hash" aria-label="Hash of the entry">{{ groups.join(' ') }}</p>
      <h2>How it is held against the ledger</h2>
      <p>
        Keep this sheet away from the computer. Later, whoever looks after it runs the line below, with what stands above. The
        first four groups are enough.
      </p>
      <p class="mono">pineledger verify --data DIR --paper "{{ last.number }} {{ groups.slice(0, 4).join(' ') }}"</p>
      <p>
        It says whether entry {{ last.number }} and every entry before it still are what they were on this day, even if the whole
        ledger was written anew by somebody who holds the district's secret. It says nothing about entries that came later.
      </p>
      <p class="signed">Printed on ______________ by ______________ and kept at ______________</p>
    </article>
  </main>
</template>

<style scoped>
.sheet {
  max-width: 720px;
  margin: 0 auto;
  padding: 16px 22px 40px;
}
.bar {
  justify-content: space-between;
  margin-bottom: 18px;
}
h2 {
  margin: 28px 0 6px;
}
p {
  margin: 6px 0;
}
.hash {
  font-size: 18px;
  line-height: 1.8;
}
.signed {
  margin-top: 48px;
}
@media print {
  .bar {
    display: none;
  }
}
</style>

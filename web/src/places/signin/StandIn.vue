<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import PineMark from '@/parts/PineMark.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import { windowOf } from '@/contract/format'
import { setSession, useSession } from '@/contract/session'
import { dayOf } from '@/places/calendar/calendar'

/** Where the link of a substitute leads. Its secret stands behind the #, which browsers send to nobody. */
const route = useRoute()
const router = useRouter()
const { session } = useSession()
const secret = computed(() => route.hash.slice(1))
const link = useQuery({
  queryKey: ['stand-in', secret],
  queryFn: () => call(api.PUT('/session/link', { body: { secret: secret.value } })),
  enabled: computed(() => secret.value.length >= 20),
  retry: false,
})
const come = useMutation({
  mutationFn: () => call(api.POST('/session/link', { body: { secret: secret.value } })),
  onSuccess: async (signedIn) => {
    setSession(signedIn)
    await router.replace('/today')
  },
})
</script>

<template>
  <main class="door">
    <section class="sheet">
      <div class="brand"><PineMark :size="30" />Pine Ledger</div>
      <p class="soft">{{ session?.district }}</p>
      <template v-if="link.data.value">
        <h1>{{ link.data.value.name }}</h1>
        <p>Substitute on {{ dayOf(link.data.value.day) }}, for:</p>
        <ul>
          <li v-for="r in link.data.value.rooms" :key="r.sittingId">
            <strong>{{ r.section }}</strong>, {{ r.school }}
            <span class="soft">{{ r.title }} · {{ windowOf(r.opensAt, r.closesAt) }}</span>
          </li>
        </ul>
        <Button v-if="link.data.value.today" label="Go to the rooms" :loading="come.isPending.value" @click="come.mutate()" />
        <p v-else role="status">This link opens on {{ dayOf(link.data.value.day) }}.</p>
        <p class="soft last">If this is not you, close this page and tell whoever sent it.</p>
      </template>
      <template v-else>
        <h1>Substitute</h1>
        <p v-if="secret.length < 20" role="alert">This link is not whole. Copy all of it, or ask for another one.</p>
      </template>
      <Trouble :error="link.error.value ?? come.error.value" />
    </section>
  </main>
</template>

<style scoped>
.door {
  min-height: 100%;
  display: grid;
  place-content: center;
  padding: 24px;
  background: var(--board);
}
.sheet {
  background: var(--paper);
  border: 1px solid var(--rule);
  padding: 26px 28px;
  width: min(440px, 100%);
}
.brand {
  display: flex;
  align-items: center;
  gap: 8px;
  font: 650 22px var(--serif);
  color: var(--pine);
}
.last {
  margin: 14px 0 0;
}
h1 {
  margin: 18px 0 4px;
}
ul {
  list-style: none;
  margin: 0 0 16px;
  padding: 0;
}
li {
  padding: 6px 0;
  border-top: 1px solid var(--rule);
}
li .soft {
  display: block;
}
</style>

<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import SelectButton from 'primevue/selectbutton'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import PineMark from '@/parts/PineMark.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, ProblemError, type Schemas } from '@/contract/client'
import { gradeName } from '@/contract/format'
import LanguageChoice from '@/player/LanguageChoice.vue'
import { t } from '@/words'
import { home, setSession, useSession, type Session } from '@/contract/session'

const router = useRouter()
const route = useRoute()
const { session } = useSession()

const sides = [
  { value: 'staff', label: 'Staff' },
  { value: 'student', label: 'Student' },
] as const
const as = ref<'staff' | 'student'>('staff')
const name = ref('')
const secret = ref('')

const people = useQuery({
  queryKey: ['demo-people'],
  queryFn: () => call(api.GET('/demo/people')),
  enabled: computed(() => session.value?.demo ?? false),
})

const enter = useMutation({
  mutationFn: (request: () => Promise<Session>) => request(),
  onSuccess: async (signedIn) => {
    setSession(signedIn)
    const next = route.query.next
    await router.replace(typeof next === 'string' && next.startsWith('/') && !next.startsWith('//') ? next : home(signedIn))
  },
})

/** Staff are told in English, students in the language that they choose. */
const trouble = computed(() => {
  const e = enter.error.value
  if (as.value === 'staff' || !(e instanceof ProblemError)) return e
  const said = ({ 0: 'trouble.network', 401: 'signIn.wrong', 429: 'signIn.wait' } as const)[e.status] ?? 'trouble.later'
  return new Error(t(said))
})

const signIn = () =>
  enter.mutate(() => call(api.POST('/session', { body: { as: as.value, name: name.value, secret: secret.value } })))
const tryAs = (p: Schemas['DemoPerson']) => enter.mutate(() => call(api.POST('/demo/session', { body: { personId: p.id } })))

const roleNames: Record<string, string> = {
  'district-coordinator': 'district coordinator',
  'school-coordinator': 'school coordinator',
  teacher: 'teacher',
  student: 'student',
}
function about(p: Schemas['DemoPerson']) {
  return [roleNames[p.role] ?? p.role, p.grade && `grade ${gradeName(p.grade)}`, p.school].filter(Boolean).join(', ')
}
</script>

<template>
  <main class="door" :class="{ demo: session?.demo }">
    <section class="sheet">
      <h1 class="brand"><PineMark :size="30" />Pine Ledger</h1>
      <p class="soft">{{ session?.district }}</p>
      <form @submit.prevent="signIn">
        <SelectButton
          v-model="as"
          :options="[...sides]"
          option-label="label"
          option-value="value"
          :allow-empty="false"
          aria-label="Sign in as"
        />
        <LanguageChoice v-if="as === 'student'" />
        <div class="field">
          <label for="name">{{ as === 'staff' ? 'E-mail' : t('signIn.number') }}</label>
          <InputText
            id="name"
            v-model="name"
            :autocomplete="as === 'staff' ? 'username' : 'off'"
            :inputmode="as === 'staff' ? 'email' : 'numeric'"
            required
          />
        </div>
        <div class="field">
          <label for="secret">{{ as === 'staff' ? 'Password' : t('signIn.pin') }}</label>
          <InputText
            id="secret"
            v-model="secret"
            type="password"
            :autocomplete="as === 'staff' ? 'current-password' : 'off'"
            required
          />
        </div>
        <Trouble :error="trouble" />
        <Button type="submit" :label="as === 'staff' ? 'Sign in' : t('signIn.enter')" :loading="enter.isPending.value" />
      </form>
    </section>
    <section v-if="session?.demo" class="people">
      <h2>Or look around as one of them</h2>
      <p class="soft">
        This is the demo district. Nobody in it is real.
        <template v-if="session.mailbox">
          What it mails ends in <a :href="session.mailbox" target="_blank" rel="noopener">its mailbox</a>.
        </template>
      </p>
      <ul>
        <li v-for="p in people.data.value" :key="p.id">
          <button type="button" class="plain-button" :disabled="enter.isPending.value" @click="tryAs(p)">
            <strong>{{ p.name }}</strong> <span class="soft">{{ about(p) }}</span>
          </button>
        </li>
      </ul>
    </section>
  </main>
</template>

<style scoped>
.door {
  min-height: 100%;
  display: grid;
  place-content: center;
  gap: 40px;
  padding: 24px;
  background: var(--board);
}
.door.demo {
  grid-template-columns: 340px 420px;
}
.sheet,
.people {
  background: var(--paper);
  border: 1px solid var(--rule);
  padding: 26px 28px;
  width: 100%;
  min-width: min(340px, 100%);
  align-self: start;
}
.brand {
  margin: 0;
  display: flex;
  align-items: center;
  gap: 8px;
  font: 650 22px var(--serif);
  color: var(--pine);
}
form {
  display: flex;
  flex-direction: column;
  gap: 14px;
  margin-top: 18px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 10px 0 0;
  border-top: 1.5px solid var(--ink);
  max-height: 430px;
  overflow: auto;
}
li {
  border-bottom: 1px solid var(--rule);
}
li button {
  display: block;
  width: 100%;
  padding: 7px 4px;
}
li button:hover {
  background: var(--tint);
}
@media (max-width: 860px) {
  .door.demo {
    grid-template-columns: minmax(0, 420px);
  }
}
</style>

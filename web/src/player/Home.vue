<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import './student.css'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import { day } from '@/contract/format'
import { signOut, useSession } from '@/contract/session'
import StudentTop from './StudentTop.vue'
import { useChanges } from '@/contract/useChanges'
import { t, useStudentLanguage } from '@/words'

/** A student's own assessments: what can be begun now, what goes on, what is done. */
const { session } = useSession()
const { locale } = useStudentLanguage()
const router = useRouter()
const list = useQuery({ queryKey: ['my-sittings'], queryFn: () => call(api.GET('/my/sittings')) })

/** What one has beside what everyone has; most have nothing. */
const supports = useQuery({ queryKey: ['my-supports'], queryFn: () => call(api.GET('/my/supports')) })
const dated = (s: Schemas['MySupport']) => {
  const on = (date: string) => day(`${date}T12:00:00Z`, locale.value)
  if (Date.parse(s.from) > Date.now()) return t('support.from', { day: on(s.from) })
  return s.to ? t('support.until', { day: on(s.to) }) : ''
}

const over = (s: Schemas['MySitting']) => Date.now() >= Date.parse(s.closesAt)
/** It may be taken once more. */
const again = (s: Schemas['MySitting']) => s.state === 'handed in' && s.try < s.tries
const ready = (s: Schemas['MySitting']) =>
  (s.state !== 'handed in' || again(s)) && s.door === 'open' && !over(s) && Date.now() >= Date.parse(s.opensAt)
const now = computed(() => (list.data.value ?? []).filter((s) => (s.state !== 'handed in' || ready(s)) && !over(s)))
const past = computed(() => (list.data.value ?? []).filter((s) => s.state === 'handed in' || over(s)))
/** What its button says, and what it says to who hears it. */
function verb(s: Schemas['MySitting']): [word: string, named: string] {
  if (again(s)) return ['home.again', 'home.againNamed']
  return s.state === 'working' ? ['home.goOn', 'home.goOnNamed'] : ['home.start', 'home.startNamed']
}
function why(s: Schemas['MySitting']) {
  if (Date.now() < Date.parse(s.opensAt)) return t('home.begins', { day: day(s.opensAt, locale.value) })
  if (s.door === 'paused') return t('home.paused')
  if (s.door === 'closed') return t('home.closed')
  return t('home.waiting')
}
/** Those whose door may move while one looks; a browser holds few lines to one place. */
useChanges(
  () => now.value.slice(0, 3).map((s) => `sittings/${s.id}`),
  () => void list.refetch(),
)
async function leave() {
  await signOut()
  await router.push('/signin')
}
</script>

<template>
  <div class="student">
    <StudentTop :title="t('home.title')" :note="session?.name"
      ><button type="button" class="quiet" @click="leave">{{ t('signOut') }}</button></StudentTop
    >
    <main>
      <h1 class="out-of-sight">{{ t('home.title') }}</h1>
      <Trouble :error="list.error.value" />
      <ul v-if="now.length">
        <li v-for="s in now" :key="s.id">
          <div>
            <strong>{{ s.title }}</strong>
            <span
              >{{ s.room ? t('home.makeup', { room: s.room }) : s.section
              }}{{ s.minutes ? `, ${t('home.minutes', { n: s.minutes }, s.minutes)}` : '' }}</span
            >
            <span v-if="!ready(s)">{{ why(s) }}</span>
          </div>
          <button
            v-if="ready(s)"
            type="button"
            class="main"
            :aria-label="t(verb(s)[1], { title: s.title })"
            @click="router.push(`/desk/${s.id}`)"
          >
            {{ t(verb(s)[0]) }}
          </button>
        </li>
      </ul>
      <p v-else-if="list.data.value">
        {{ t('home.nothing') }}
      </p>
      <template v-if="past.length">
        <h2>{{ t('home.done') }}</h2>
        <ul>
          <li v-for="s in past" :key="s.id">
            <div>
              <strong>{{ s.title }}</strong>
              <span>{{ s.state === 'handed in' ? t('home.handedIn') : t('home.ended', { day: day(s.closesAt, locale) }) }}</span>
            </div>
            <button
              v-if="s.practice"
              type="button"
              class="quiet"
              :aria-label="t('home.practiceNamed', { title: s.title })"
              @click="router.push(`/desk/${s.id}/practice`)"
            >
              {{ t('home.practice') }}
            </button>
            <button
              v-if="s.state === 'handed in'"
              type="button"
              class="quiet"
              :aria-label="t('home.seeNamed', { title: s.title })"
              @click="router.push(`/desk/${s.id}`)"
            >
              {{ t('home.see') }}
            </button>
          </li>
        </ul>
      </template>
      <section v-if="supports.data.value?.length" class="supports">
        <h2>{{ t('support.title') }}</h2>
        <p>
          <template v-for="(s, i) in supports.data.value" :key="s.key + s.from"
            ><template v-if="i">, </template>{{ t(`support.${s.key}`)
            }}<span v-if="dated(s)" class="soft"> ({{ dated(s) }})</span></template
          >
        </p>
      </section>
    </main>
  </div>
</template>

<style scoped>
main {
  max-width: 680px;
  margin: 0 auto;
  padding: 28px 20px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0 0 28px;
  border-top: 1.5px solid var(--ink);
}
li {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 16px;
  padding: 14px 4px;
  border-bottom: 1px solid var(--rule);
}
li div {
  display: grid;
  gap: 2px;
}
li span {
  color: var(--ink-soft);
}
h2 {
  margin-bottom: 8px;
}
</style>

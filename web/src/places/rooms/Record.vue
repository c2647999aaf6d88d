<script setup lang="ts">
import { useBroadcastChannel, useEventListener, useLocalStorage } from '@vueuse/core'
import { IconArrowLeft, IconDeviceDesktop, IconRotate2 } from '@tabler/icons-vue'
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { onBeforeRouteLeave, useRoute, useRouter } from 'vue-router'
import ItemBody from '@/item/ItemBody.vue'
import SafeHtml from '@/parts/SafeHtml.vue'
import Trouble from '@/parts/Trouble.vue'
import { useCrumb } from '@/parts/crumb'
import { useScreenKeys } from '@/parts/keys'
import { api, call, queries, type Schemas } from '@/contract/client'
import { plural } from '@/contract/format'
import { useOutbox } from '@/kept/outbox'
import { childChannel, type ChildView } from './child'

/** One child, one adult: the adult asks and presses one key; the child sees the picture alone. */
const route = useRoute()
const router = useRouter()
const sitting = Number(route.params.id)
const student = Number(route.params.student)
const path = { path: { id: sitting, student } }

const recording = ref<Schemas['Recording']>()
const error = ref<Error>()
const at = ref(0)
const said = ref('')
const turned = ref(false)
const mixed = useLocalStorage(`pine-ledger-mixed-${sitting}`, false)
useCrumb(() => recording.value && `${recording.value.student}, ${recording.value.title}`)

const lines = computed(() => {
  const r = recording.value
  if (!r) return []
  return mixed.value ? r.mixed.map((n) => r.lines.find((l) => l.line === n)!) : r.lines
})
const line = computed(() => lines.value[at.value])
const done = computed(() => lines.value.filter((l) => l.recorded).length)
const over = computed(() => recording.value?.state === 'handed in')

async function begin() {
  try {
    recording.value = await call(api.POST('/sittings/{id}/students/{student}/recording', { params: path }))
    takeUp(recording.value.lines)
    const first = lines.value.findIndex((l) => !l.recorded)
    at.value = first < 0 ? 0 : first
  } catch (e) {
    error.value = e as Error
  }
}

const words = { right: 'Right', wrong: 'Wrong', none: 'No response' }
type Recorded = keyof typeof words

/** What this device has recorded; each line goes by itself, in the order in which they were recorded. */
const outbox = useOutbox<{ recorded: Recorded; number: number }>({
  name: () => `pine-ledger-unsent-${sitting}-${student}`,
  after: 0,
  turns: (waiting) =>
    Object.entries(waiting)
      .sort(([, a], [, b]) => a.number - b.number)
      .map(([n]) => [Number(n)]),
  send: async (part) => {
    for (const [n, mine] of Object.entries(part))
      await call(api.PUT('/sittings/{id}/students/{student}/recording', { params: path, body: { line: Number(n), ...mine } }))
    error.value = undefined
  },
  // What the server refuses is taken back and said.
  refused: (e, part) => {
    for (const [n, mine] of Object.entries(part)) {
      const place = lines.value.findIndex((l) => l.line === Number(n))
      const l = lines.value[place]
      if (!l) continue
      if (l.number === mine.number) l.recorded = stood.get(l.line) ?? ''
      at.value = place
    }
    error.value = e
    return true
  },
})
const waiting = computed(() => Object.keys(outbox.waiting.value).length)
const away = outbox.away
/** What the server has of lines that wait. */
const stood = new Map<number, string>()

/** Records and goes on at once; it counts as saved when the server has it on disk. */
function record(what: Recorded) {
  const l = line.value
  if (!l || over.value || ending.value || recording.value?.stopped) return
  sure.value = false
  if (!outbox.waiting.value[l.line]) stood.set(l.line, l.recorded)
  l.recorded = what
  l.number = Math.max(l.number + 1, Date.now())
  said.value = `Line ${l.line}: ${words[what].toLowerCase()}`
  if (at.value < lines.value.length - 1) at.value++
  outbox.put(l.line, { recorded: what, number: l.number })
}

/** What an earlier page could not send stands, unless the server has something newer. */
function takeUp(all: Schemas['RecordLine'][]) {
  const mine = outbox.open(Object.fromEntries(all.map((l) => [l.line, l.number])))
  for (const l of all) {
    stood.set(l.line, l.recorded)
    Object.assign(l, mine[l.line])
  }
}

void begin()

function back() {
  at.value = Math.max(0, at.value - 1)
}
/** What ends a child's recording can be taken back for so long, in ms: a hand-in cannot. */
const undoTime = 8_000
const sure = ref(false) // lines are left, and it was asked
const ending = ref(false)
let timer: ReturnType<typeof setTimeout> | undefined
function end() {
  if (done.value < lines.value.length && !sure.value) {
    sure.value = true
    return
  }
  sure.value = false
  ending.value = true
  timer = setTimeout(finish, undoTime)
}
function stay() {
  clearTimeout(timer)
  sure.value = ending.value = false
}
// Who goes on to the next child does not wait for it.
onBeforeRouteLeave(async () => {
  if (ending.value) await finish(false)
})
async function finish(leave = true) {
  clearTimeout(timer)
  ending.value = false
  try {
    if (!(await outbox.flush())) return // it says that it waits for the network
    recording.value = await call(api.POST('/sittings/{id}/students/{student}/hand-in', { params: path }))
    await queries.invalidateQueries({ queryKey: ['room'] })
    if (leave) await router.push(`/rooms/${sitting}`)
  } catch (e) {
    error.value = e as Error
  }
}

// The second window gets what the child may see, and nothing else.
const { post, data } = useBroadcastChannel<ChildView, ChildView>({ name: childChannel(sitting) })
const childSees = computed<ChildView>(() => ({
  shown: line.value && !over.value ? JSON.parse(JSON.stringify(line.value.shown)) : undefined,
}))
watch(childSees, (now) => post(now))
watch(data, (m) => {
  if (m && 'ready' in m) post(childSees.value)
})
function openWindow() {
  window.open(`/rooms/${sitting}/child`, `child-${sitting}`, 'popup,width=1024,height=768')
}

const typing = 'input:not([type=checkbox]), select, textarea, [contenteditable]'
useEventListener('keydown', (e) => {
  // A key that is held down records once; one that is pressed on a check box or a button is still for the line.
  if (e.repeat || e.ctrlKey || e.metaKey || e.altKey || (e.target as Element).closest?.(typing)) return
  if (turned.value) {
    if (e.key === 'Escape') turned.value = false
    return
  }
  const what = ({ r: 'right', w: 'wrong', n: 'none' } as Record<string, Recorded>)[e.key.toLowerCase()]
  if (what) record(what)
  else if (e.key === 'Backspace' || e.key === 'ArrowLeft') back()
  else if (e.key === 'ArrowRight') at.value = Math.min(at.value + 1, lines.value.length - 1)
  else if (e.key.toLowerCase() === 't') turned.value = true
  else return
  e.preventDefault()
})
useScreenKeys([
  ['r', 'right'],
  ['w', 'wrong'],
  ['n', 'no response'],
  ['Backspace', 'back to the line before'],
  ['t', 'turn the picture to the child'],
])
const mark = { right: '●', wrong: '×', none: '○' } as Record<string, string>
</script>

<template>
  <div class="record">
    <Trouble :error="error" />
    <template v-if="recording">
      <header>
        <div>
          <h1>{{ recording.student }}</h1>
          <p class="soft">
            {{ recording.title }} · {{ done }} of {{ lines.length }} recorded ·
            <span role="status">{{
              away ? 'not saved yet, will send when the network is back' : waiting ? 'saving…' : 'saved'
            }}</span>
          </p>
        </div>
        <label class="mix"><input v-model="mixed" type="checkbox" />Mix the order for each child</label>
        <Button severity="secondary" outlined size="small" @click="openWindow"
          ><IconDeviceDesktop :size="16" aria-hidden="true" />Second window for the child</Button
        >
        <Button severity="secondary" outlined size="small" @click="turned = true"
          ><IconRotate2 :size="16" aria-hidden="true" />Turn to the child</Button
        >
      </header>
      <p v-if="recording.stopped && !over" class="resin" role="alert">{{ recording.stopped }}.</p>
      <p v-if="over">This child is done. <RouterLink :to="`/rooms/${sitting}`">Back to the room</RouterLink></p>
      <template v-else-if="line">
        <div class="sides">
          <section class="adult" aria-label="For the adult">
            <h2>Line {{ line.line }}, {{ at + 1 }} of {{ lines.length }}</h2>
            <SafeHtml :html="line.directions" class="directions" />
            <p>
              <span class="soft">Right is</span> <strong>{{ line.right }}</strong>
            </p>
            <div class="keys">
              <button
                v-for="(word, what) in words"
                :key="what"
                type="button"
                :aria-pressed="line.recorded === what"
                :disabled="!!recording.stopped"
                @click="record(what)"
              >
                <kbd>{{ word[0] }}</kbd>{{ word }}
              </button>
            </div>
            <Button severity="secondary" text :disabled="at === 0" @click="back"
              ><IconArrowLeft :size="16" aria-hidden="true" />Back</Button
            >
          </section>
          <section class="child" aria-label="What the child sees">
            <h2 class="soft">What the child sees</h2>
            <ItemBody :model-value="{}" :shown="line.shown" name="recorded" read-only />
          </section>
        </div>
        <nav class="strip" aria-label="Lines">
          <button
            v-for="(l, i) in lines"
            :key="l.line"
            type="button"
            :aria-current="i === at"
            :aria-label="`Line ${l.line}, ${words[l.recorded as Recorded]?.toLowerCase() ?? 'not recorded'}`"
            @click="at = i"
          >
            {{ l.line }}<span aria-hidden="true">{{ mark[l.recorded] ?? '' }}</span>
          </button>
        </nav>
        <div v-if="ending" class="end" role="status">
          <p>Done with {{ recording.student }}.</p>
          <Button label="Undo" severity="secondary" outlined @click="stay" />
          <Button label="Back to the room" @click="finish()" />
        </div>
        <div v-else-if="sure" class="end" role="alert">
          <p>{{ plural(lines.length - done, 'line') }} {{ lines.length - done === 1 ? 'is' : 'are' }} not recorded. End here?</p>
          <Button label="End here" @click="end" />
          <Button label="Keep recording" severity="secondary" outlined @click="stay" />
        </div>
        <Button
          v-else
          :label="done < lines.length ? `End here, ${lines.length - done} not recorded` : 'Done with this child'"
          :severity="done < lines.length ? 'secondary' : undefined"
          :outlined="done < lines.length"
          @click="end"
        />
      </template>
      <p class="out-of-sight" role="status">{{ said }}</p>
      <Teleport to="body">
        <div v-if="turned && line" class="turned" role="dialog" aria-modal="true" aria-label="The child's picture">
          <div class="turned-body"><ItemBody :model-value="{}" :shown="line.shown" name="turned" read-only /></div>
          <Button label="Back to the adult" severity="secondary" text autofocus @click="turned = false" />
        </div>
      </Teleport>
    </template>
  </div>
</template>

<style scoped>
.record {
  padding: 16px 22px 30px;
  max-width: 1100px;
}
header {
  display: flex;
  align-items: center;
  gap: 14px;
  margin-bottom: 14px;
}
header > div {
  flex: 1;
}
h1 {
  font: 650 1.4rem var(--serif);
  margin: 0;
}
.end {
  display: flex;
  align-items: center;
  gap: 10px;
}
.end p {
  margin: 0;
}
header p {
  margin: 2px 0 0;
}
h2 {
  font-size: 13.5px;
  margin: 0 0 8px;
}
.mix {
  display: flex;
  gap: 7px;
  align-items: center;
}
.mix input {
  width: 16px;
  height: 16px;
  accent-color: var(--pine);
}
.sides {
  display: grid;
  grid-template-columns: minmax(300px, 2fr) 3fr;
  border: 1px solid var(--rule);
  min-height: 380px;
}
.adult {
  padding: 16px 18px;
  border-right: 3px double var(--rule-strong);
}
.child {
  padding: 16px 18px;
  background: var(--tint);
}
.child :deep(.hint),
.turned :deep(.hint) {
  display: none;
}
.directions {
  font-size: 1.15rem;
  margin-bottom: 10px;
}
.keys {
  display: grid;
  gap: 8px;
  margin: 18px 0 12px;
}
.keys button {
  display: flex;
  align-items: center;
  gap: 12px;
  min-height: 52px;
  padding: 0 14px;
  font: inherit;
  font-size: 1.05rem;
  font-weight: 600;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--rule-strong);
  cursor: pointer;
}
.keys button:hover {
  background: var(--tint-strong);
}
.keys button[aria-pressed='true'] {
  background: var(--pine);
  border-color: var(--pine);
  color: var(--on-pine);
}
kbd {
  font: 600 13px var(--mono);
  border: 1px solid currentcolor;
  padding: 1px 7px;
}
.strip {
  display: flex;
  flex-wrap: wrap;
  margin: 14px 0;
}
.strip button {
  width: 44px;
  height: 44px;
  margin: -1px 0 0 -1px;
  font: inherit;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--rule-strong);
  cursor: pointer;
}
.strip button span {
  display: block;
  font-size: 12px;
  line-height: 1;
}
.strip button[aria-current='true'] {
  box-shadow: inset 0 -4px 0 var(--ink);
}
.turned {
  position: fixed;
  inset: 0;
  z-index: 1200;
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: space-between;
  padding: 4vh 4vw 12px;
  background: var(--paper);
  font-family: var(--reading);
  font-size: 1.4rem;
}
.turned :deep(img) {
  width: min(86vw, 1000px);
  height: auto;
  max-height: 76vh;
  object-fit: contain;
}
.turned-body {
  display: grid;
  place-items: center;
  flex: 1;
}
@media (max-width: 860px) {
  .sides {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

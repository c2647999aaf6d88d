<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { IconBookmark, IconClock } from '@tabler/icons-vue'
import { computed, defineAsyncComponent, nextTick, onMounted, ref, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import './student.css'
import type { Schemas } from '@/contract/client'
import { clockTime } from '@/contract/format'
import { signOut } from '@/contract/session'
import SafeHtml from '@/parts/SafeHtml.vue'
import Trouble from '@/parts/Trouble.vue'
import AllItems from './AllItems.vue'
import AnswerPanel from './AnswerPanel.vue'
import Done from './Done.vue'
import Intro from './Intro.vue'
import ItemBody from '@/item/ItemBody.vue'
import LookOver from './LookOver.vue'
import PartDirections from './PartDirections.vue'
import OwnFeedback from './OwnFeedback.vue'
import Stopped from './Stopped.vue'
import StudentTop from './StudentTop.vue'
import WorkFoot from './WorkFoot.vue'
import Bench from './tools/Bench.vue'
import Dock from './tools/Dock.vue'
import { timeLeft } from './answers'
import { howOf, leftForGood } from './how'
import { keepPages } from './keepPages'
import { supportsIn, supportsQuery, type Supports } from './supports'
import { useAsides } from './useAsides'
import { useAttempt } from './useAttempt'
import { useBench } from './useBench'
import { usePractice, useTrial } from './useTrial'
import { t } from '@/words'

const trialBar = () => import('@/places/assessments/try/TrialBar.vue')
const TrialBar = defineAsyncComponent(trialBar)
const PdfPages = defineAsyncComponent(() => import('@/parts/PdfPages.vue'))
const route = useRoute()
const router = useRouter()
/** Staff who try an assessment sit it here as a student would; nothing of it is kept. */
const trial = route.meta.trial === true
const practice = route.meta.practice === true
const back = trial ? `/assessments/${Number(route.params.id)}/lines` : '/desk'
const seed = computed(() => Number(route.query.seed) || 1)
const id = Number(route.params.id)
const attempt = trial ? useTrial(id, () => seed.value) : practice ? usePractice(id) : useAttempt(id)
/** Nothing of it is kept: a try, or practice. */
const unkept = trial || practice
const { take, answers, answered, error, stopped, saved, left, bell, handingIn, late, offered, elsewhere, told } = attempt
const how = computed(() => howOf(take.value))
const asides = useAsides(take, unkept)
watch(() => take.value?.attemptId, asides.open)

/** intro: the instructions; item: one at a time; over: the last look. Where one is lives in the address. */
const at = computed(() => Number(route.query.item) || 0)
const lookingOver = computed(() => route.query.look !== undefined)
const trying = ref(false) // the first page of a try
const again = ref(false) // the first page of a further try
const intro = computed(() => (unkept ? trying.value : take.value?.state === 'not begun' || again.value))
const wrongCode = ref('')
const hideClock = ref(false)
const hiddenNote = ref(false)
const urgent = computed(() => left.value < 5 * 60_000)

onMounted(async () => {
  if (trial) await trialBar() // a bar that came later would move Begin away under the pointer
  await attempt.load()
  if (!unkept) keepPages().catch(() => undefined) // without it a page does not outlive a reload offline
  const begun = answered.value.some(Boolean) || at.value > 0 || lookingOver.value
  trying.value = !begun && (!!take.value?.instructions || !!how.value.directions)
})
const begin = useMutation({
  mutationFn: async (code: string) => {
    trying.value = false
    const right = await attempt.begin(code)
    wrongCode.value = right ? '' : (error.value?.message ?? '')
    if (!right) return
    if (again.value) await go(1, true) // where one was in the try before is no place in this one
    again.value = false
  },
})
/** Where the lines come, also after a door has opened again, one of them is shown. */
watch(
  () => answers.value.length,
  (n) => {
    if (n && !at.value && !lookingOver.value) void go(Math.max(1, answered.value.indexOf(false) + 1), true)
  },
)

/** What stays in the address from item to item. */
const kept = () => (trial ? { seed: String(seed.value), ...supportsQuery(supports.value) } : {})
/** Another draw begins anew, other supports do not. */
const reseed = (to: number) => router.replace({ query: { ...supportsQuery(supports.value), seed: String(to) } })
function support(to: Supports) {
  const { item, look } = route.query
  const where = { ...(item && { item }), ...(look !== undefined && { look }) }
  void router.replace({ query: { seed: String(seed.value), ...supportsQuery(to), ...where } })
}
watch(seed, () => void attempt.load().then(() => go(1, true)))
const page = useTemplateRef<HTMLElement>('page')
const heading = () => page.value?.querySelector<HTMLElement>('main h1')
async function go(line: number, replace = false) {
  const to = { query: { ...kept(), item: String(Math.max(1, Math.min(line, answers.value.length))) } }
  await (replace ? router.replace(to) : router.push(to))
  await nextTick()
  heading()?.focus({ preventScroll: replace })
}
/** On a narrow screen the item stands below its passage. */
function toItem() {
  heading()?.closest('.answer')?.scrollIntoView({ block: 'start' })
  heading()?.focus({ preventScroll: true })
}
const line = computed(() => take.value?.lines[at.value - 1])
const answer = computed(() => answers.value[at.value - 1])
const passage = computed(() => take.value?.passages.find((p) => p.identifier === line.value?.passage))
const part = computed(() => (line.value?.part ? take.value?.parts[line.value.part - 1] : undefined))
const beginsPart = computed(() => !!part.value && take.value?.lines[at.value - 2]?.part !== line.value?.part)
/** Where the strip shows that a part begins. */
const partStarts = computed(() => (take.value?.lines ?? []).map((l, i, all) => i > 0 && l.part !== all[i - 1]!.part))
const bench = useBench({ take, how, line, part, page, asides, ...(trial && { tried: computed(() => supportsIn(route.query)) }) })
const { supports, tools, calculator } = bench
const see = (change: Partial<Supports>) => (trial ? support({ ...supports.value, ...change }) : bench.see(change))
const working = computed(() => take.value?.state === 'working' && !stopped.value && !intro.value)

/** An item that is left for good stays as it is; what is told of it then shows before one goes on. */
const toldOf = ref<Schemas['ItemFeedback']>()
const leaving = useMutation({
  mutationFn: async (to: number | 'look') => {
    const from = at.value
    if (leftForGood(how.value) && from > 0 && !answers.value[from - 1]?.done) {
      toldOf.value = await attempt.leave(from)
      if (toldOf.value) return
    }
    await onward(to)
  },
})
async function onward(to: number | 'look') {
  toldOf.value = undefined
  if (to === 'look') await router.push({ query: { ...kept(), look: '' } })
  else await go(to)
}
const count = computed(() => answered.value.filter(Boolean).length)
const markedCount = computed(() => answers.value.filter((a) => a.marked).length)
const status = computed(() =>
  [
    saved.value,
    t('work.answered', { n: count.value, of: answers.value.length }),
    markedCount.value && t('work.markedCount', { n: markedCount.value }),
  ]
    .filter(Boolean)
    .join(' · '),
)

async function leave() {
  await signOut()
  await router.push('/signin')
}
const handIn = useMutation({ mutationFn: () => attempt.handIn() })
/** Whoever reads by ear or moves by key begins at the head of what has come. */
watch([lookingOver, intro, stopped, () => take.value?.state, toldOf], async () => {
  await nextTick()
  heading()?.focus({ preventScroll: true })
})
</script>

<template>
  <div
    ref="page"
    class="student take"
    :class="{ 'no-printing': !how.printing && !trial, spaced: supports.spaced, still: how.begins.still }"
    :data-contrast="supports.contrast || undefined"
    :style="{ '--print': supports.print }"
  >
    <StudentTop :title="take?.title ?? ''" :note="trial ? '' : take?.student">
      <button v-if="unkept" type="button" class="quiet small" @click="router.push(back)">{{ t('trial.leave') }}</button>
      <template v-if="take?.state === 'working' && take.limited">
        <span v-if="!hideClock || urgent" class="clock" role="timer"
          ><IconClock :size="20" stroke="1.6" aria-hidden="true" />{{ timeLeft(left) }}</span
        >
        <button v-if="!urgent" type="button" class="quiet small" @click="hideClock = !hideClock">
          {{ t(hideClock ? 'work.showClock' : 'work.hideClock') }}
        </button>
      </template>
    </StudentTop>

    <Bench
      v-if="working && !lookingOver"
      class="tools"
      :how="how"
      :tools="tools"
      :not-here="bench.notHere.value"
      :open="bench.open.value"
      :may-rest="!unkept"
      @toggle="bench.toggle"
      @rest="attempt.rest(true)"
    />
    <TrialBar v-if="trial" :id="Number(route.params.id)" :seed="seed" :supports="supports" @seed="reseed" @supports="support" />
    <p v-if="bell && take?.state === 'working' && !stopped" class="elsewhere" role="status">
      {{ t('work.bell', { n: bell }, bell) }}
    </p>
    <p v-if="elsewhere && take?.state === 'working' && !hiddenNote" class="elsewhere" role="status">
      {{ t(elsewhere.later ? 'elsewhere.later' : 'elsewhere.earlier', { time: clockTime(elsewhere.at) }) }}
      <button type="button" class="quiet small" @click="hiddenNote = true">{{ t('elsewhere.close') }}</button>
    </p>
    <main v-if="!take" class="one">
      <Trouble :error="error" />
      <button v-if="error" type="button" class="quiet" @click="router.push(back)">{{ t('back') }}</button>
    </main>

    <Done
      v-else-if="take.state === 'handed in' && !again"
      :take="take"
      :sitting="id"
      :told="told"
      :trial="trial"
      :practice="practice"
      :offered="offered"
      :late="late"
      :busy="begin.isPending.value"
      @leave="leave"
      @back="router.push(back)"
      @again="again = true"
    />

    <Stopped v-else-if="stopped" :take="take" :stopped="stopped" @rested="attempt.rest(false)" @back="router.push('/desk')" />

    <Intro
      v-else-if="intro"
      :take="take"
      :trial="trial"
      :busy="begin.isPending.value"
      :wrong-code="wrongCode"
      @begin="begin.mutate($event)"
    />

    <main v-else-if="toldOf" class="one">
      <h1 tabindex="-1">{{ at }}</h1>
      <OwnFeedback :feedback="{ title: '', now: [], next: [], goOver: toldOf.goOver, lines: [{ ...toldOf, number: at }] }" />
      <button type="button" class="main" @click="onward(at < answers.length ? at + 1 : 'look')">{{ t('feedback.next') }}</button>
    </main>

    <LookOver
      v-else-if="lookingOver"
      :answered="answered"
      :marked="answers.map((a) => a.marked)"
      :fixed="how.forwardOnly"
      :busy="handIn.isPending.value"
      :waiting="handingIn && !handIn.isPending.value"
      :error="error"
      @go="go"
      @hand-in="handIn.mutate()"
      @stay-on="attempt.stayOn()"
    />

    <main v-else-if="take.document" class="work document">
      <PdfPages :hash="take.document.hash" :name="take.document.name" :pages="take.document.pages" />
      <section class="questions" :aria-label="t('work.answers')">
        <h1 class="out-of-sight" tabindex="-1">{{ t('work.answers') }}</h1>
        <Trouble :error="error" />
        <AnswerPanel
          :lines="take.lines"
          :parts="take.parts"
          :answers="answers"
          :at="at"
          @answer="attempt.answer"
          @mark="attempt.mark"
          @at="at === $event || router.replace({ query: { ...kept(), item: String($event) } })"
        />
      </section>
    </main>

    <AllItems
      v-else-if="how.onePage"
      :take="take"
      :answers="answers"
      :at="at"
      :error="error"
      @answer="attempt.answer"
      @mark="attempt.mark"
    />

    <main v-else-if="line && answer" class="work" :class="{ beside: passage }">
      <section v-if="passage" class="passage" :aria-label="passage.title" tabindex="0">
        <h2 :lang="passage.language">{{ passage.title }}</h2>
        <SafeHtml :html="passage.body" :lang="passage.language" data-read="passages" />
        <button type="button" class="quiet small cue" @click="toItem">{{ t('work.toItem', { n: at }) }}</button>
      </section>
      <section class="answer">
        <Trouble :error="error" />
        <PartDirections v-if="part" :key="line.part" :part="part" :open="beginsPart" />
        <div class="number">
          <h1 :id="`item-${at}`" tabindex="-1">
            {{ at }}<span class="out-of-sight">{{ ` ${t('work.of', { n: answers.length })}` }}</span>
          </h1>
          <button
            v-if="how.tools.marks && !how.forwardOnly"
            type="button"
            class="quiet small"
            :aria-pressed="answer.marked"
            @click="attempt.mark(at, !answer.marked)"
          >
            <IconBookmark :size="18" stroke="1.6" aria-hidden="true" />{{ t(answer.marked ? 'work.marked' : 'work.mark') }}
          </button>
        </div>
        <ItemBody
          :key="at"
          :shown="line.shown"
          :name="`line-${at}`"
          :labelled-by="`item-${at}`"
          :read-only="answer.done"
          :model-value="answer.response"
          @update:model-value="attempt.answer(at, $event)"
        />
      </section>
    </main>

    <Dock
      v-if="working && !lookingOver"
      :how="how"
      :open="bench.open.value"
      :calculator="calculator"
      :shown="line?.shown"
      :supports="supports"
      :asides="asides"
      :highlights="bench.highlights"
      :page="() => page"
      @close="bench.toggle"
      @supports="see"
    />
    <WorkFoot
      v-if="working && !toldOf"
      :answered="answered"
      :marked="answers.map((a) => a.marked)"
      :starts="partStarts"
      :at="at"
      :looking-over="lookingOver"
      :forward-only="how.forwardOnly"
      :status="status"
      :busy="leaving.isPending.value"
      @go="(n) => (lookingOver ? go(n) : leaving.mutate(n))"
      @look="leaving.mutate('look')"
    />
  </div>
</template>

<style scoped>
.take {
  display: grid;
  grid-template: auto auto auto auto minmax(0, 1fr) auto auto / minmax(0, 1fr) auto;
  height: 100%;
}
.take > :deep(*) {
  grid-column: 1 / -1;
}
.take > :deep(main) {
  position: relative; /* what is out of sight scrolls with it */
  grid-area: 5 / 1;
  overflow: auto;
}
.take > :deep(.dock) {
  grid-area: 5 / 2;
}
main > *,
:deep(main.one > *) {
  zoom: var(--print);
}
.one,
:deep(main.one) {
  width: min(680px, 100%);
  margin: 0 auto;
  padding: 40px 20px;
}
@media print {
  /* Printing by students is a setting. */
  .no-printing {
    display: none;
  }
}
h1,
h2 {
  font-family: var(--reading);
}
h1:focus {
  outline: none;
}
.work {
  display: grid;
  grid-template-columns: minmax(0, 720px);
  justify-content: center;
}
.work.beside {
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  overflow: hidden;
}
.work.document {
  grid-template-columns: minmax(0, 6fr) minmax(0, 5fr);
  grid-template-rows: minmax(0, 1fr);
  justify-content: stretch;
  overflow: hidden;
}
.questions {
  overflow: auto;
  border-left: 1px solid var(--rule);
}
.passage {
  padding: 24px 44px 40px 60px;
  border-right: 1px solid var(--rule);
  overflow: auto;
}
.passage :deep(p) {
  margin: 0 0 14px;
  max-width: 62ch;
}
.passage h2 {
  margin-bottom: 10px;
}
.answer {
  padding: 24px 34px 40px;
  overflow: auto;
}
.number {
  display: flex;
  justify-content: space-between;
  align-items: center;
  margin-bottom: 8px;
}
.number h1 {
  font-size: 19px;
}
button.small {
  padding: 0 12px;
  font-size: 15px;
}
.cue {
  display: none;
}
.clock {
  display: inline-flex;
  white-space: nowrap;
  gap: 8px;
  align-items: center;
}
@media (max-width: 900px) {
  .take > :deep(main) {
    grid-column: 1 / -1;
  }
  .take > :deep(.dock) {
    grid-area: 6 / 1 / auto / -1;
  }
}
@media (max-width: 800px) {
  .work.document {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: minmax(0, 1fr) minmax(0, 1fr);
  }
  .questions {
    border-left: 0;
    border-top: 2px solid var(--rule-strong);
  }
  .work.beside {
    grid-template-columns: minmax(0, 1fr);
    overflow: auto;
  }
  .passage {
    padding: 16px 20px;
    border-right: 0;
    border-bottom: 1px solid var(--rule);
    overflow: visible;
  }
  .answer {
    padding: 16px 20px;
    overflow: visible;
  }
  .passage .cue {
    display: block;
    position: sticky;
    bottom: 10px;
    margin-left: auto;
  }
}
/* At 400 % hardly more than an item fits: the bars scroll away. */
@media (max-height: 480px) {
  .take {
    display: block;
    height: auto;
  }
  main,
  .work.beside,
  .work.document {
    overflow: visible;
  }
}
</style>

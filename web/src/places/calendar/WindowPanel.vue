<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import Note from '@/parts/Note.vue'
import SidePanel from '@/parts/SidePanel.vue'
import { gradeName, plural, windowOf } from '@/contract/format'
import { useSession } from '@/contract/session'
import { dayOf, stateWords, type Calendar, type Window } from './calendar'

/** One window: its dates, whom it takes, and what it clashes with. */
const props = defineProps<{ window: Window; calendar: Calendar }>()
defineEmits<{ close: [] }>()
const { may } = useSession()
const lost = computed(() => props.calendar.daysOff.filter((d) => d.day >= props.window.from && d.day <= props.window.to))
const clashes = computed(() =>
  props.calendar.clashes
    .filter((c) => c.grade === props.window.grade && [c.one, c.other].includes(props.window.distributionId))
    .map((c) => {
      const other = c.one === props.window.distributionId ? c.other : c.one
      return { ...c, title: props.calendar.windows.find((w) => w.distributionId === other)?.title ?? '' }
    }),
)
</script>

<template>
  <SidePanel :title="window.title" @close="$emit('close')">
    <p>
      Grade {{ gradeName(window.grade) }}, {{ stateWords[window.state] }}.
      <RouterLink v-if="may('build')" :to="`/assessments/${window.assessmentId}/distribution`">Open its distribution</RouterLink>
    </p>
    <dl>
      <dt>Dates</dt>
      <dd>
        {{ windowOf(window.opensAt, window.closesAt) }}
        <span class="soft"
          >{{ plural(window.schoolDays, 'school day')
          }}<template v-if="lost.length">, {{ lost.length }} without school</template></span
        >
      </dd>
      <dt>Sections</dt>
      <dd>{{ plural(window.sections, 'section') }}, {{ plural(window.students, 'student') }}</dd>
      <dt>Minutes</dt>
      <dd>{{ window.minutes ? `${window.minutes} for each student` : 'no time limit' }}</dd>
    </dl>
    <Note v-for="c in clashes" :key="`${c.one} ${c.other}`">
      <strong class="resin">Grade {{ gradeName(c.grade) }} sits two at once.</strong>
      {{ c.title }} takes the same {{ plural(c.students, 'student') }}, {{ dayOf(c.from) }} to {{ dayOf(c.to) }}.
    </Note>
  </SidePanel>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 90px 1fr;
  border-top: 1.5px solid var(--ink);
}
dt,
dd {
  margin: 0;
  padding: 7px 4px;
  border-bottom: 1px solid var(--rule);
}
dt {
  color: var(--ink-soft);
}
dd .soft {
  display: block;
}
</style>

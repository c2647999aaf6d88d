<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { Schemas } from '@/contract/client'
import { plural } from '@/contract/format'

/** What the checks before it goes out have found, with how many it concerns and where it is mended. */
const props = defineProps<{ findings: Schemas['Finding'][]; assessment: number }>()
const kinds = computed(() => [
  {
    of: 'stop',
    title: (n: number) => `${plural(n, 'stop')}, to be mended`,
    list: props.findings.filter((f) => f.severity === 'stop'),
  },
  {
    of: 'caution',
    title: (n: number) => `${plural(n, 'caution')}, mend or give a reason`,
    list: props.findings.filter((f) => f.severity === 'caution'),
  },
])
</script>

<template>
  <aside aria-label="Preflight">
    <h2>Preflight</h2>
    <p class="soft" aria-live="polite">
      {{ findings.length ? 'Looked over again at each change.' : '' }}
      <strong v-if="!findings.length" class="pine">Nothing to fix.</strong>
    </p>
    <template v-for="k in kinds" :key="k.of">
      <section v-if="k.list.length" :class="k.of">
        <h3>{{ k.title(k.list.length) }} <span class="soft">Students</span></h3>
        <ul>
          <li v-for="f in k.list" :key="f.code">
            <i class="mark" aria-hidden="true" />
            <span>
              {{ f.text }}
              <RouterLink v-if="f.part !== 'distribution'" :to="`/assessments/${f.assessmentId ?? assessment}/${f.part}`"
                >To the {{ f.part }}</RouterLink
              >
            </span>
            <strong v-if="f.students" class="n">{{ f.students }}</strong>
          </li>
        </ul>
      </section>
    </template>
  </aside>
</template>

<style scoped>
h3 {
  display: flex;
  justify-content: space-between;
  margin: 12px 0 0;
  font: 650 12.5px var(--sans);
  border-bottom: 1.5px solid var(--ink);
  padding-bottom: 4px;
}
h3 .soft {
  font-weight: 500;
}
.stop h3 {
  color: var(--brick);
}
.caution h3 {
  color: var(--resin);
}
ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
li {
  display: grid;
  grid-template-columns: 14px 1fr auto;
  gap: 8px;
  padding: 8px 0;
  border-bottom: 1px solid var(--rule);
}
.mark {
  width: 10px;
  height: 10px;
  margin-top: 5px;
  border: 3px solid var(--resin);
}
.stop .mark {
  background: var(--brick);
  border-color: var(--brick);
}
.n {
  font-variant-numeric: tabular-nums;
}
</style>

<script setup lang="ts">
import { IconLock } from '@tabler/icons-vue'
import { computed } from 'vue'
import { moment } from '@/contract/format'
import { levelName, levels, type Setting, type Settings } from './settings'

/**
 * What each level says of a setting, from the district down. What is overridden or stopped is struck through; a double
 * line is a lock, from where it stands down to where nothing passes it.
 */
const props = defineProps<{ setting: Setting; view: Settings }>()

const shown = computed(() => levels.slice(0, levels.indexOf(props.view.level as (typeof levels)[number]) + 1))
const rows = computed(() =>
  [...shown.value, ...props.setting.steps.map((s) => s.level).filter((l) => l === 'student')].map((level) => {
    const step = props.setting.steps.find((s) => s.level === level)
    const lockedAbove =
      !!props.setting.lockedAt && levels.indexOf(level as never) > levels.indexOf(props.setting.lockedAt as never)
    return { level, step, locked: lockedAbove || (!!step?.lock && props.setting.lockedAt === level) }
  }),
)
const states = { inForce: 'in force', overridden: 'overridden', stopped: 'stopped by the lock' }
</script>

<template>
  <div>
    <ol class="trail" aria-label="What each level says">
      <li v-for="r in rows" :key="r.level" :class="[r.step?.state, { locked: r.locked }]">
        <span class="mark" aria-hidden="true" />
        <div class="who">
          <strong v-if="r.step">{{ levelName(r.level, view) }}</strong>
          <template v-else>{{ levelName(r.level, view) }}</template>
          <small v-if="r.step">{{ [r.step.by, r.step.at && moment(r.step.at)].filter(Boolean).join(', ') }}</small>
        </div>
        <div class="says">
          <template v-if="r.step">
            <s v-if="r.step.state !== 'inForce'">{{ r.step.words }}</s>
            <strong v-else>{{ r.step.words }}</strong>
            <small><IconLock v-if="r.step.lock" :size="13" stroke="1.8" aria-label="locked," /> {{ states[r.step.state] }}</small>
          </template>
          <span v-else class="soft">says nothing</span>
        </div>
      </li>
    </ol>
    <p v-if="setting.lockedAt" class="soft">
      A double line is a lock: nothing passes it{{ setting.lock === 'settings' ? ' but accommodations' : '' }}.
    </p>
  </div>
</template>

<style scoped>
.trail {
  list-style: none;
  margin: 0 0 6px;
  padding: 0;
  border-top: 1.5px solid var(--ink);
}
li {
  position: relative;
  display: grid;
  grid-template-columns: 26px minmax(0, 1fr) minmax(0, 1fr);
  gap: 4px;
  min-height: 34px;
  padding: 6px 0;
  border-bottom: 1px solid var(--rule);
}
.mark {
  position: relative;
}
/* The line that goes down; a double one where a lock holds. */
.mark::before {
  content: '';
  position: absolute;
  left: 8px;
  top: -6px;
  bottom: -7px;
  width: 0;
  border-left: 1px solid var(--rule-strong);
}
.locked .mark::before {
  width: 4px;
  border-left: 1.5px solid var(--pine);
  border-right: 1.5px solid var(--pine);
}
.mark::after {
  content: '';
  position: absolute;
  left: 8px;
  top: 9px;
  width: 9px;
  border-top: 1px solid var(--rule-strong);
}
.inForce .mark::after {
  top: 4px;
  left: 5px;
  width: 11px;
  height: 11px;
  border: 0;
  background: var(--pine);
}
.inForce {
  background: var(--tint);
}
.stopped .mark::after {
  left: 13px;
  border-top: 2px solid var(--brick);
}
.who,
.says {
  display: grid;
  gap: 1px;
  align-content: start;
}
.says {
  text-align: right;
  padding-right: 6px;
}
small {
  font-size: 12px;
  color: var(--ink-soft);
}
.inForce .says > strong {
  color: var(--pine);
}
.stopped .says s,
.stopped .says small {
  color: var(--brick);
}
.overridden s {
  color: var(--ink-soft);
}
svg {
  vertical-align: -2px;
}
</style>

<script setup lang="ts">
import { ref } from 'vue'
import { RouterLink } from 'vue-router'
import type { Schemas } from '@/contract/client'
import { capital } from '@/contract/format'
import HistoryPanel from './HistoryPanel.vue'
import PutAway from './PutAway.vue'
import SharePanel from '@/places/assessments/share/SharePanel.vue'
import type { Sheet } from '@/places/assessments/lines/lines'

/** The parts in the order of the work, each with its state in words: progress and navigation at once. */
defineProps<{ sheet: Sheet; part: string; results?: number; others: Schemas['Present'][]; builds: boolean }>()
const panel = ref<'history' | 'share'>()
</script>

<template>
  <div class="spine">
    <nav v-if="sheet.forms.length" class="forms" aria-label="Forms">
      <RouterLink
        v-for="f in sheet.forms"
        :key="f.id"
        :to="`/assessments/${f.id}/${part}`"
        :aria-current="f.id === sheet.id ? 'page' : undefined"
        >Form {{ f.letter }}</RouterLink
      >
    </nav>
    <nav aria-label="Parts of the assessment">
      <ol>
        <li v-for="p in sheet.parts" :key="p.name" :class="p.status">
          <RouterLink
            :to="p.name === 'results' ? (results ? `/results/${results}` : '/results') : `/assessments/${sheet.id}/${p.name}`"
            :aria-current="p.name === part ? 'step' : undefined"
          >
            <span class="box" aria-hidden="true" />
            <strong>{{ capital(p.name) }}</strong>
            <small>{{ p.state }}</small>
          </RouterLink>
        </li>
      </ol>
    </nav>
    <div class="together">
      <p v-for="o in others" :key="o.name" role="status">
        <strong>{{ o.name }}</strong> is here too, at {{ o.part }}
      </p>
      <template v-if="builds">
        <button type="button" class="link-button" @click="panel = 'history'">History</button>
        <button type="button" class="link-button" @click="panel = 'share'">
          Shared with {{ sheet.shares.length || 'nobody else' }}
        </button>
        <PutAway v-if="sheet.mayChange" />
      </template>
    </div>
    <HistoryPanel v-if="panel === 'history'" @close="panel = undefined" />
    <SharePanel v-else-if="panel === 'share'" @close="panel = undefined" />
  </div>
</template>

<style scoped>
.spine {
  border-right: 1px solid var(--rule);
  padding: 6px 0;
  overflow: auto;
}
.together {
  display: grid;
  gap: 6px;
  justify-items: start;
  margin: 10px 0 0 34px;
  font-size: 12.5px;
}
.together p {
  margin: 0 8px 0 0;
  color: var(--slate);
}
.together strong {
  font-size: inherit;
}
.forms {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  padding: 4px 12px 8px;
  border-bottom: 1px solid var(--rule);
}
.forms a {
  display: inline-block;
  min-height: 24px;
  padding: 2px 8px;
  border: 1px solid var(--rule-strong);
  border-radius: 4px;
}
.forms a[aria-current] {
  background: var(--pine);
  color: var(--on-pine);
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
ol a {
  display: grid;
  grid-template-columns: 34px 1fr;
  align-content: center;
  min-height: 49px;
  color: var(--ink);
  text-decoration: none;
  position: relative;
  padding-right: 8px;
}
li:not(:last-child) a::after {
  content: '';
  position: absolute;
  left: 18px;
  top: 30px;
  height: 38px;
  border-left: 1px solid var(--rule-strong);
}
ol a[aria-current] {
  background: var(--tint);
}
ol a[aria-current] strong {
  color: var(--pine);
}
ol a:hover {
  background: var(--tint);
}
.box {
  grid-row: 1 / 3;
  width: 11px;
  height: 11px;
  border: 1px solid var(--rule-strong);
  background: var(--paper);
  margin: 4px 0 0 13px;
  z-index: 1;
}
.done .box {
  background: var(--pine);
  border-color: var(--pine);
}
.wanting .box {
  border: 3px solid var(--resin);
}
strong {
  font-size: 13.5px;
  line-height: 18px;
  font-weight: 650;
}
small {
  grid-column: 2;
  color: var(--ink-soft);
  font-size: 12px;
  line-height: 16px;
}
.wanting small {
  color: var(--resin);
}
@media (max-width: 860px) {
  .spine {
    border-right: 0;
    border-bottom: 1px solid var(--rule);
  }
  ol {
    display: flex;
    overflow-x: auto;
  }
  ol a {
    min-width: 118px;
  }
  li:not(:last-child) a::after {
    display: none;
  }
  .together {
    grid-auto-flow: column;
    justify-content: start;
    gap: 14px;
    overflow-x: auto;
    margin: 4px 14px;
    white-space: nowrap;
  }
}
</style>

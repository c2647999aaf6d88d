<script setup lang="ts">
import LedgerTable from '@/parts/LedgerTable.vue'
import { plural } from '@/contract/format'
import type { Distribution } from './whom'

/** Whom it goes to as a running account: each entry adds to those before it or leaves some of them out. */
defineProps<{ view: Distribution; editable: boolean }>()
defineEmits<{ add: []; open: [at: number]; remove: [at: number]; seat: [student: number, section: number] }>()
const signed = (n: number) => (n < 0 ? `−${-n}` : String(n))
</script>

<template>
  <LedgerTable label="Whom it goes to">
    <thead>
      <tr>
        <th>Entry</th>
        <th class="num">Students</th>
        <th class="num double">Schools</th>
        <th class="num">Sections</th>
        <th class="num">Students</th>
        <th v-if="editable"><span class="out-of-sight">Remove</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(a, i) in view.account" :key="i">
        <td>
          <span class="sign" aria-hidden="true">{{ view.entries[i]?.out ? '−' : i ? '+' : '' }}</span>
          <button v-if="editable" type="button" class="link-button" @click="$emit('open', i)">{{ a.words }}</button>
          <template v-else>{{ a.words }}</template><template v-if="view.entries[i]?.out">, left out</template>
        </td>
        <td class="num soft">{{ signed(a.change) }}</td>
        <td class="num double">{{ a.schools }}</td>
        <td class="num">{{ a.sections }}</td>
        <td class="num">{{ a.students }}</td>
        <td v-if="editable" class="num">
          <button type="button" class="off" :aria-label="`Remove ${a.words}`" @click="$emit('remove', i)">×</button>
        </td>
      </tr>
      <tr v-if="view.twice.length">
        <td>
          <span class="sign" aria-hidden="true">−</span>
          <details>
            <summary>in two of these sections, seated once</summary>
            <ul>
              <li v-for="t in view.twice.slice(0, 50)" :key="t.studentId">
                {{ t.name }}: <span class="soft">{{ t.text }}</span>
                <template v-if="editable">
                  <button
                    v-for="o in t.others"
                    :key="o.id"
                    type="button"
                    class="link-button instead"
                    :aria-label="`Seat ${t.name} in ${o.title}`"
                    @click="$emit('seat', t.studentId, o.id)"
                  >
                    Seat in {{ o.title }}
                  </button>
                </template>
              </li>
              <li v-if="view.twice.length > 50" class="soft">and {{ plural(view.twice.length - 50, 'student') }} more</li>
            </ul>
          </details>
        </td>
        <td class="num soft">{{ signed(view.total.change) }}</td>
        <td class="num double">{{ view.total.schools }}</td>
        <td class="num">{{ view.total.sections }}</td>
        <td class="num">{{ view.total.students }}</td>
        <td v-if="editable" />
      </tr>
    </tbody>
    <tfoot>
      <tr>
        <th scope="row" colspan="2">
          <span class="goes">Goes to</span>
          <button v-if="editable" type="button" class="link-button" @click="$emit('add')">Add an entry</button>
        </th>
        <td class="num double">{{ view.total.schools }}</td>
        <td class="num">{{ view.total.sections }}</td>
        <td class="num">{{ view.total.students }}</td>
        <td v-if="editable" />
      </tr>
    </tfoot>
  </LedgerTable>
</template>

<style scoped>
.sign {
  display: inline-block;
  width: 14px;
  color: var(--ink-soft);
}
details {
  display: inline-block;
}
summary {
  cursor: pointer;
  min-height: 24px;
}
ul {
  margin: 4px 0 8px;
  padding-left: 16px;
}
.instead {
  margin-left: 8px;
}
.goes {
  margin: 0 16px 0 14px;
}
</style>

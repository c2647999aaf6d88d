<script setup lang="ts">
import {
  IconArchive,
  IconBook2,
  IconCalendar,
  IconChartDots,
  IconFileText,
  IconLogout,
  IconSearch,
  IconStairsUp,
  IconSunrise,
  IconUsers,
} from '@tabler/icons-vue'
import { useMagicKeys, whenever } from '@vueuse/core'
import { computed, defineAsyncComponent, ref } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import { signOut, useSession, type Right } from '@/contract/session'
import PineMark from './PineMark.vue'
import { crumb } from './crumb'
import KeysHelp from './KeysHelp.vue'

const GoTo = defineAsyncComponent(() => import('./GoTo.vue'))

const places: { path: string; name: string; icon: typeof IconArchive; right: Right }[] = [
  { path: '/today', name: 'Today', icon: IconSunrise, right: 'staff' },
  { path: '/bank', name: 'Bank', icon: IconArchive, right: 'readKeys' },
  { path: '/assessments', name: 'Assessments', icon: IconFileText, right: 'readKeys' },
  { path: '/bands', name: 'Bands', icon: IconStairsUp, right: 'build' },
  { path: '/calendar', name: 'Calendar', icon: IconCalendar, right: 'staff' },
  { path: '/results', name: 'Results', icon: IconChartDots, right: 'readKeys' },
  { path: '/rosters', name: 'Rosters', icon: IconUsers, right: 'staff' },
  { path: '/ledger', name: 'Ledger', icon: IconBook2, right: 'readLedger' },
]

const { session, may } = useSession()
const route = useRoute()
const router = useRouter()
const shown = computed(() => places.filter((p) => may(p.right)))
const here = computed(() => places.find((p) => route.path.startsWith(p.path)) ?? { path: route.path, name: route.meta.title })
const going = ref(false)
const keys = useMagicKeys({
  passive: false,
  onEventFired: (e) => {
    if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'k' && e.type === 'keydown') e.preventDefault()
  },
})
whenever(
  () => keys['Ctrl+K']?.value || keys['Meta+K']?.value,
  () => (going.value = true),
)

async function leave() {
  await signOut()
  await router.push('/signin')
}
</script>

<template>
  <div class="frame">
    <a class="skip" href="#main">Skip to the content</a>
    <nav class="rail" aria-label="Places">
      <span class="mark" aria-hidden="true"><PineMark :size="28" /></span>
      <RouterLink
        v-for="p in shown"
        :key="p.path"
        :to="p.path"
        class="place"
        :aria-current="p.path === here.path ? 'page' : undefined"
      >
        <component :is="p.icon" :size="22" stroke="1.5" aria-hidden="true" />
        <span>{{ p.name }}</span>
      </RouterLink>
    </nav>
    <header class="top">
      <div class="crumbs">
        <RouterLink :to="here.path">{{ here.name }}</RouterLink>
        <template v-if="crumb">
          <span aria-hidden="true">/</span><strong>{{ crumb }}</strong>
        </template>
      </div>
      <button type="button" class="goto" @click="going = true">
        <IconSearch :size="15" aria-hidden="true" /><span>Go to…</span><kbd>Ctrl K</kbd>
      </button>
      <span class="who"
        >{{ session?.name }}<span class="soft">, {{ session?.district }}</span></span
      >
      <button type="button" class="leave" aria-label="Sign out" title="Sign out" @click="leave">
        <IconLogout :size="18" stroke="1.6" aria-hidden="true" />
      </button>
    </header>
    <main id="main" tabindex="-1"><slot /></main>
    <GoTo v-if="going" :places="shown" @close="going = false" />
    <KeysHelp />
  </div>
</template>

<style scoped>
.frame {
  display: grid;
  grid-template: 46px minmax(0, 1fr) / 80px minmax(0, 1fr);
  height: 100%;
}
.skip {
  position: absolute;
  left: -999px;
  z-index: 10;
  background: var(--paper);
  padding: 8px;
}
.skip:focus {
  left: 8px;
  top: 8px;
}
.rail {
  grid-row: 1 / 3;
  background: var(--board);
  border-right: 1px solid var(--rule);
  display: flex;
  flex-direction: column;
  overflow-y: auto;
}
.mark {
  display: grid;
  place-items: center;
  height: 60px;
  color: var(--pine);
}
.place {
  display: grid;
  justify-items: center;
  gap: 3px;
  padding: 9px 2px 8px;
  font-size: 11px;
  text-decoration: none;
  color: var(--ink-soft);
  border-left: 3px solid transparent;
}
.place:hover {
  color: var(--ink);
}
.place[aria-current] {
  background: var(--paper);
  color: var(--pine);
  font-weight: 700;
  border-left-color: var(--pine);
}
.top {
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 0 18px;
  border-bottom: 1px solid var(--rule);
}
.crumbs {
  flex: 1;
  display: flex;
  gap: 10px;
  min-width: 0;
  white-space: nowrap;
}
.crumbs strong {
  overflow: hidden;
  text-overflow: ellipsis;
}
.crumbs a {
  color: var(--ink-soft);
  text-decoration: none;
}
.goto {
  display: flex;
  align-items: center;
  gap: 8px;
  width: 230px;
  height: 30px;
  padding: 0 10px;
  font: inherit;
  color: var(--ink-soft);
  background: var(--paper);
  border: 1px solid var(--rule-strong);
  border-radius: 4px;
  cursor: pointer;
}
.goto span {
  flex: 1;
  text-align: left;
}
kbd {
  font: 11.5px var(--mono);
  border: 1px solid var(--rule);
  border-radius: 3px;
  padding: 0 5px;
}
.who {
  white-space: nowrap;
  font-weight: 600;
}
.who .soft {
  font-weight: 400;
}
.leave {
  display: grid;
  place-items: center;
  width: 30px;
  height: 30px;
  border: 0;
  background: none;
  color: var(--ink-soft);
  cursor: pointer;
}
main {
  overflow: auto;
  min-height: 0;
  outline: none;
}
/* On a phone, or zoomed in: the places lie above, and the page scrolls as one where it is low. */
@media (max-width: 860px) {
  .frame {
    grid-template: auto auto minmax(0, 1fr) / minmax(0, 1fr);
  }
  .rail {
    grid-row: 1;
    flex-direction: row;
    overflow-x: auto;
    border-right: 0;
    border-bottom: 1px solid var(--rule);
  }
  .mark {
    display: none;
  }
  .place {
    grid-auto-flow: column;
    align-items: center;
    gap: 5px;
    padding: 8px 10px 6px;
    font-size: 12px;
    border-left: 0;
    border-bottom: 3px solid transparent;
  }
  .place[aria-current] {
    border-bottom-color: var(--pine);
  }
  .top {
    flex-wrap: wrap;
    gap: 4px 10px;
    padding: 6px 12px;
  }
  .crumbs {
    flex-basis: 100%;
  }
  .goto {
    width: auto;
    flex: 1;
  }
  kbd,
  .who .soft {
    display: none;
  }
  .who {
    overflow: hidden;
    text-overflow: ellipsis;
  }
}
@media (max-height: 480px) and (max-width: 860px) {
  .frame {
    display: block;
    height: auto;
  }
  main {
    overflow-x: auto;
  }
}
</style>

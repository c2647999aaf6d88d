<script setup lang="ts">
import { computed } from 'vue'
import SafeHtml from '@/parts/SafeHtml.vue'
import type { Schemas } from '@/contract/client'
import { letter } from '@/item/letter'
import PlacesPicture from '@/item/PlacesPicture.vue'

/** An item on paper: what is pressed, dragged or typed on screen is circled, written or joined by a line here. */
const props = defineProps<{ shown: Schemas['Shown']; directions: Record<string, string> }>()
const kindOf = (place: Schemas['Interaction']) => place.kind ?? props.shown.kind
const label = (c: Schemas['Choice'], i: number) => c.label ?? letter(i)
const gaps = (place: Schemas['Interaction']) => (place.targets ?? []).filter((t) => !t.plain)
const words = computed(() => props.shown.body)
const lines = (place: Schemas['Interaction']) => place.rows || (kindOf(place) === 'extended-written' ? 10 : 3)
</script>

<template>
  <div class="printed">
    <template v-for="(block, i) in words" :key="i">
      <SafeHtml v-if="block.html" :html="block.html" :tag="block.inline ? 'span' : 'div'" class="text" />
      <div v-if="block.interaction" :class="{ inline: block.inline }">
        <p v-if="directions[kindOf(block.interaction)]" class="directions">{{ directions[kindOf(block.interaction)] }}</p>
        <PlacesPicture
          v-if="kindOf(block.interaction) !== 'spot' && block.interaction.picture"
          :place="block.interaction"
          class="picture"
        />
        <div v-if="block.interaction.line" class="axis">
          <span
            v-for="(p, k) in block.interaction.line.places"
            :key="p"
            class="tick"
            :class="{ long: k % block.interaction.line.labels === 0 }"
            ><span v-if="k % block.interaction.line.labels === 0">{{ p.replace('-', '−') }}</span></span
          >
        </div>
        <img
          v-else-if="kindOf(block.interaction) === 'spot' && block.interaction.picture"
          :src="block.interaction.picture.source"
          :alt="block.interaction.picture.alt"
          class="picture"
        />
        <p v-else-if="kindOf(block.interaction) === 'menus'" class="sentence">
          <template v-for="(t, k) in block.interaction.targets" :key="k"
            ><SafeHtml v-if="t.plain" :html="t.html" tag="span" /><span v-else class="menu"
              >[<template v-for="(c, n) in block.interaction.choices?.filter((x) => !x.in || x.in === t.id)" :key="c.id"
                ><template v-if="n"> / </template><SafeHtml :html="c.html" tag="span" /></template
              >]</span
            ></template
          >
        </p>
        <p v-else-if="kindOf(block.interaction) === 'select-text'" class="sentence">
          <SafeHtml v-for="(c, k) in block.interaction.choices" :key="k" :html="c.html" tag="span" />
        </p>
        <table v-else-if="kindOf(block.interaction) === 'box-table'">
          <thead>
            <tr>
              <td />
              <th v-for="t in gaps(block.interaction)" :key="t.id"><SafeHtml :html="t.html" tag="span" /></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="c in block.interaction.choices" :key="c.id">
              <th><SafeHtml :html="c.html" tag="span" /></th>
              <td v-for="t in gaps(block.interaction)" :key="t.id" class="box">☐</td>
            </tr>
          </tbody>
        </table>
        <div v-else-if="block.interaction.targets?.length" class="pairs">
          <ol>
            <li v-for="(c, k) in block.interaction.choices" :key="c.id">
              <b>{{ label(c, k) }}</b> <SafeHtml :html="c.html" tag="span" />
            </li>
          </ol>
          <ol>
            <li v-for="t in gaps(block.interaction)" :key="t.id">
              <span class="blank">______</span> <SafeHtml :html="t.html" tag="span" />
            </li>
          </ol>
        </div>
        <ol v-else-if="kindOf(block.interaction) === 'order'" class="choices">
          <li v-for="c in block.interaction.choices" :key="c.id">
            <span class="blank">____</span> <SafeHtml :html="c.html" tag="span" />
          </li>
        </ol>
        <ol v-else-if="block.interaction.choices?.length" class="choices">
          <li v-for="(c, k) in block.interaction.choices" :key="c.id">
            <b class="circle">{{ label(c, k) }}</b> <SafeHtml v-if="!c.label" :html="c.html" tag="span" />
          </li>
        </ol>
        <template v-else-if="kindOf(block.interaction).endsWith('written')">
          <div v-for="n in lines(block.interaction)" :key="n" class="rule" />
        </template>
        <p v-else-if="kindOf(block.interaction) !== 'examiner'" class="answer">______________ {{ block.interaction.unit }}</p>
      </div>
    </template>
  </div>
</template>

<style scoped>
.text :deep(p) {
  margin: 0 0 0.4em;
}
.text :deep(img),
.picture {
  max-width: 100%;
  height: auto;
}
.text :deep(table),
table {
  border-collapse: collapse;
  margin: 0.4em 0;
}
.text :deep(th),
.text :deep(td),
th,
td {
  border: 0.5pt solid #000;
  padding: 0.15em 0.6em;
}
.inline,
.inline .answer {
  display: inline;
}
.directions {
  margin: 0.3em 0;
  font-style: italic;
}
ol {
  list-style: none;
  margin: 0.3em 0 0;
  padding: 0;
}
li {
  margin: 0.25em 0;
  break-inside: avoid;
}
li :deep(p) {
  display: inline;
}
.circle {
  display: inline-block;
  min-width: 1.5em;
  padding: 0 0.25em;
  margin-right: 0.4em;
  text-align: center;
  border: 0.7pt solid #000;
  border-radius: 1em;
}
.pairs {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 1.5em;
}
.box {
  text-align: center;
}
.rule {
  height: 1.9em;
  border-bottom: 0.5pt solid #000;
}
.answer {
  margin: 0.8em 0 0;
}
.axis {
  display: flex;
  justify-content: space-between;
  border-top: 1pt solid #000;
  margin: 1.2em 0.5em 1.6em;
}
.tick {
  width: 0;
  border-left: 0.7pt solid #000;
  height: 0.4em;
  position: relative;
}
.tick.long {
  height: 0.8em;
}
.tick span {
  position: absolute;
  top: 0.9em;
  transform: translateX(-50%);
}
</style>

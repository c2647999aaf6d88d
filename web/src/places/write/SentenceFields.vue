<script setup lang="ts">
import { computed } from 'vue'
import { menuText, readMenus, readSelection, selectionText } from './brackets'
import { placeOf, type Part } from './document'

/** A text with brackets: menus in it, or what can be selected. */
const props = defineProps<{ part: Part }>()

const menus = computed(() => props.part.kind === 'menus')
const text = computed({
  get: () => (menus.value ? menuText(props.part.place) : selectionText(props.part.place.choices ?? [])),
  set: (v: string) => {
    if (menus.value) readMenus(v, props.part.place, props.part.key)
    else readSelection(v, props.part.place, props.part.key)
  },
})
</script>

<template>
  <div :id="placeOf(part, menus ? 'targets' : 'choices')" class="fields">
    <label>
      {{ menus ? 'The sentence, with the words of each menu in brackets' : 'The text, with what can be selected in brackets' }}
      <textarea
        v-model.lazy="text"
        rows="5"
        :placeholder="menus ? 'The tide [rises|falls] twice a day.' : 'The [tide] [rose].'"
      />
    </label>
    <label v-if="!menus" class="short"
      >Maximum choices (0 = no limit) <input v-model.number.lazy="part.place.maxChoices" type="number" min="0" max="1000"
    /></label>
  </div>
</template>

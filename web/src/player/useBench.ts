import { computed, ref, watch, type ComputedRef, type Ref } from 'vue'
import type { Schemas } from '@/contract/client'
import { useItemLanguage } from '@/item/language'
import { provideMasks } from '@/item/masks'
import { provideSpelling } from '@/item/spelling'
import { provideStrikes } from '@/item/strikes'
import type { How } from './how'
import { beginsWith, contrasts, noSupports, prints, type Supports } from './supports'
import { calculatorOf, toolsAt, without, type ToolName } from './tools/tools'
import { useHighlights, type Region } from './tools/useHighlights'
import { useSwitch } from './tools/useSwitch'
import type { Asides } from './useAsides'

interface Here {
  take: Ref<Schemas['Take'] | undefined>
  how: ComputedRef<How>
  line: ComputedRef<Schemas['TakeLine'] | undefined>
  part: ComputedRef<Schemas['TestPart'] | undefined>
  page: Readonly<Ref<HTMLElement | null>>
  /** How somebody who tries the assessment wants to see it; nothing for a student, who has it kept. */
  tried?: ComputedRef<Supports>
  asides: Asides
}

/** The tools that a student has, which of them are open, and how the screen is. */
export function useBench({ take, how, line, part, page, tried, asides }: Here) {
  const open = ref<ToolName[]>([])
  const toggle = (tool: ToolName) =>
    (open.value = open.value.includes(tool) ? open.value.filter((o) => o !== tool) : [tool, ...open.value])

  /** As their supports say, until they change it; it goes with them to another device. */
  const supports = computed<Supports>(() => {
    if (tried) return tried.value
    const chosen = { ...beginsWith(how.value), ...asides.get<Partial<Supports>>('screen', 0, {}) }
    const { zoom, colors, easyType } = how.value.tools
    return {
      ...noSupports,
      ...(zoom && { print: prints.includes(chosen.print) ? chosen.print : 1 }),
      ...(colors && { contrast: contrasts.includes(chosen.contrast) ? chosen.contrast : '' }),
      ...(easyType && { spaced: chosen.spaced }),
    }
  })
  const see = (change: Partial<Supports>) => {
    const { print, contrast, spaced } = { ...supports.value, ...change }
    asides.put('screen', 0, { print, contrast, spaced })
  }

  /** A line can be one to be answered without some of them. */
  const here = computed(() => without(how.value, line.value?.without))
  const partHere = computed(() => (line.value?.without?.includes('calculator') ? undefined : part.value))
  const calculator = computed(() => calculatorOf(here.value, partHere.value, supports.value.calculator))
  const tools = computed(() => toolsAt(here.value, calculator.value, line.value?.shown))
  const usually = computed(() => toolsAt(how.value, calculatorOf(how.value, part.value, false), line.value?.shown))
  const notHere = computed(() => usually.value.filter((tool) => !tools.value.includes(tool)))
  watch(tools, (now) => (open.value = open.value.filter((tool) => now.includes(tool))))

  // Items come in the student's language, and so do buttons where a support says it.
  const { language, choose } = useItemLanguage()
  watch(
    () => how.value.begins.language || how.value.begins.speaks,
    (to) => {
      if (to && !language.value) choose(to)
    },
    { immediate: true },
  )

  const lineOf = (name: string) => take.value?.lines[Number(/^line-(\d+)/.exec(name)?.[1]) - 1]?.line ?? 0
  provideStrikes({
    may: () => here.value.tools.strikeOut,
    of: (name) => asides.get<Record<string, string[]>>('strikes', lineOf(name), {})[name] ?? [],
    put: (name, out) =>
      asides.put('strikes', lineOf(name), { ...asides.get<Record<string, string[]>>('strikes', lineOf(name), {}), [name]: out }),
  })
  provideMasks(() => here.value.tools.answerMasking)
  provideSpelling(() => here.value.tools.spelling)
  useSwitch(() => how.value.begins.switch, page)

  /** What can be highlighted now: the text of the passage and of the item. */
  function regions(): Region[] {
    const now = line.value
    if (!now || !here.value.tools.highlighter) return []
    const out: Region[] = []
    const passage = page.value?.querySelector('[data-read="passages"]')
    const first = take.value?.lines.find((l) => l.passage && l.passage === now.passage)
    if (passage && first) out.push({ el: passage, line: first.line, name: `passage-${passage.getAttribute('lang') ?? ''}` })
    page.value?.querySelectorAll('[data-read="questions"], [data-read="choices"]').forEach((el, i) => {
      out.push({ el, line: now.line, name: `${i}-${el.closest('[lang]')?.getAttribute('lang') ?? ''}` })
    })
    return out
  }
  const highlights = useHighlights(asides, regions, () => [
    line.value?.line,
    language.value,
    take.value?.state,
    asides.any.value,
    here.value.tools.highlighter,
  ])
  return { open, toggle, supports, see, calculator, tools, notHere, highlights }
}

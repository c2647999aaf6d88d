import { inject, provide, ref, type InjectionKey, type Ref } from 'vue'

/** Choices that are covered until the student uncovers them: which are open, by the name of their place. */
interface Masks {
  covers: () => boolean
  open: Ref<Record<string, string[]>>
}
const key: InjectionKey<Masks> = Symbol('masks')

export const provideMasks = (covers: () => boolean) => provide(key, { covers, open: ref({}) })

/** Nothing where no choice is covered. */
export const useMasks = () => inject(key, undefined)

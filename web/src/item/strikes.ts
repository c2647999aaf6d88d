import { inject, provide, ref, type InjectionKey, type Ref } from 'vue'

/** Which choices a student has ruled out, by the name of their place. It changes no answer and stays on this page. */
interface Strikes {
  may: () => boolean
  out: Ref<Record<string, string[]>>
}
const key: InjectionKey<Strikes> = Symbol('strikes')

export function provideStrikes(may: () => boolean) {
  provide(key, { may, out: ref({}) })
}

/** Nothing where choices cannot be ruled out. */
export const useStrikes = () => inject(key, undefined)

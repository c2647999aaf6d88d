import { inject, provide, type InjectionKey } from 'vue'

/** Which choices a student has ruled out, by the name of their place. It changes no answer. */
interface Strikes {
  may: () => boolean
  of: (name: string) => string[]
  put: (name: string, out: string[]) => void
}
const key: InjectionKey<Strikes> = Symbol('strikes')

export const provideStrikes = (strikes: Strikes) => provide(key, strikes)

/** Nothing where choices cannot be ruled out. */
export const useStrikes = () => inject(key, undefined)

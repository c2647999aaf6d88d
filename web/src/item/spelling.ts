import { inject, provide, type InjectionKey } from 'vue'

const key: InjectionKey<() => boolean> = Symbol('spelling')

/** Says whether the browser marks words that are not spelled right where one writes. */
export const provideSpelling = (helps: () => boolean) => provide(key, helps)
export const useSpelling = () => inject(key, () => false)

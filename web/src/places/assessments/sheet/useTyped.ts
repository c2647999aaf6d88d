import type { Ref } from 'vue'
import { useKept } from '@/kept/useKept'
import type { Sheet } from '@/places/assessments/lines/lines'

interface Options<T> {
  name: string
  part: (sheet: Sheet) => T
  put: (value: T, version: number) => Promise<boolean>
  editable: Readonly<Ref<boolean>>
  error: Readonly<Ref<Error | undefined>>
  whole?: (value: T) => boolean
  sound?: (value: T) => T | undefined
}

/** What is typed of one part of a sheet, whose changes go one after the other. */
export function useTyped<T>(sheet: Readonly<Ref<Sheet>>, { name, part, put, editable, error, whole, sound }: Options<T>) {
  return useKept({
    name: `${sheet.value.id}/${name}`,
    there: () => ({ value: part(sheet.value), version: sheet.value.version }),
    put: async (value, version) => {
      if (!(await put(value, version))) throw error.value
    },
    editable: () => editable.value,
    whole,
    sound,
  })
}

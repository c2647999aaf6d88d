import { effectScope } from 'vue'
import { beforeEach, expect, it, vi } from 'vitest'
import { Line } from './testServer'
import { useChanges } from './useChanges'

beforeEach(() => vi.useFakeTimers())

it('a line that was refused is tried again, and what changed meanwhile is asked for', () => {
  const changed = vi.fn()
  const scope = effectScope()
  scope.run(() => useChanges(['panels/3'], changed))
  const [first] = Line.open
  Object.assign(first!, { readyState: 2 })
  first!.dispatchEvent(new Event('error'))
  vi.advanceTimersByTime(5_000)
  expect(Line.open).toHaveLength(2)
  Line.open[1]!.dispatchEvent(new Event('open'))
  expect(changed).toHaveBeenCalledOnce()

  Object.assign(Line.open[1]!, { readyState: 2 })
  Line.open[1]!.dispatchEvent(new Event('error'))
  scope.stop()
  vi.advanceTimersByTime(60_000)
  expect(Line.open).toHaveLength(1) // nobody listens any more
})

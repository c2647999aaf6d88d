import { expect, it } from 'vitest'
import { batches } from './outbox'

it('sends long essays in several turns, each answer once', () => {
  const essay = (n: number) => ({ response: { RESPONSE: ['é'.repeat(n)] }, marked: false, number: 1 })
  expect(batches({})).toEqual([])
  expect(batches({ 1: essay(10), 2: essay(20), 7: essay(5) })).toEqual([[1, 2, 7]])
  expect(batches({ 1: essay(300_000), 2: essay(100_000), 3: essay(200_000), 4: essay(1) })).toEqual([
    [1, 2],
    [3, 4],
  ])
  expect(batches({ 1: essay(900_000), 2: essay(1) }), 'one that is too long by itself goes alone').toEqual([[1], [2]])
})

import { expect, it } from 'vitest'
import * as z from 'zod'
import { reasonOf } from './reason'

it('says the first line of an error, where a value departs from its schema, and anything else as it is', () => {
  expect(reasonOf(new Error('  no room left\n  behind it: quota '))).toBe('no room left')
  expect(reasonOf('just text')).toBe('just text')
  const schema = z.object({ video: z.object({ rate: z.number('a rate is a number') }) })
  expect(reasonOf(schema.safeParse({ video: { rate: 'x' } }).error)).toBe('video.rate: a rate is a number')
  expect(reasonOf(z.number('a number').safeParse('x').error)).toBe('the whole of it: a number')
  expect(reasonOf(new z.ZodError([]))).toBe('it cannot be read')
})

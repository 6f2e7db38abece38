import * as z from 'zod'

/** A name by which things refer to each other; none that every object answers to. */
export const Id = z
  .string()
  .min(1)
  .max(200)
  .refine((id) => !(id in Object.prototype), { error: 'this name cannot stand for a thing' })

/** Text that an editor gives; long enough for any name, too short for nonsense. */
export const longestName = 500
export const Name = z.string().max(longestName)
/** A name as long as names may be: what comes from others may be longer. */
export const shortened = (name: string): string =>
  name.length > longestName ? `${name.slice(0, longestName - 1)}…` : name

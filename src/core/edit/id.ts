import { z } from 'zod'

/** A name by which things refer to each other; none that every object answers to. */
export const Id = z
  .string()
  .min(1)
  .max(200)
  .refine((id) => !(id in Object.prototype), { error: 'this name cannot stand for a thing' })

/** Text that an editor gives; long enough for any name, too short for nonsense. */
export const Name = z.string().max(500)

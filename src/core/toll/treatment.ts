import { z } from 'zod'
import { Layout } from '../framing/framing'

/** How one placed clip is made to run in its timeline's format. */
export const Treatment = Layout.extend({
  /** `hold`: frames as they land. `blend`: mixtures of two. `every-frame`: each source frame once, at another speed. */
  motion: z.enum(['hold', 'blend', 'every-frame']).default('hold'),
  /** Whether a changed speed is what the editor wants (slow motion), and so costs nothing. */
  speedWanted: z.boolean().default(false),
  /** What becomes of the fields of interlaced clips; `auto` takes what costs least in the format. */
  fields: z.enum(['auto', 'same-rate', 'double-rate', 'weave']).default('auto'),
})
export type Treatment = z.infer<typeof Treatment>

export const plainTreatment: Treatment = Treatment.parse({})

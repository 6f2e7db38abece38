import * as z from 'zod'

/** One file on a card. The id stands for its place and leads nowhere else. */
export const ListedFile = z
  .object({
    id: z.string(),
    name: z.string(),
    /** Folder below the card, with `/`, empty at its top. */
    folder: z.string(),
    sizeBytes: z.number(),
    modifiedAt: z.string(),
    /** Whether the file has come to rest: while it is being copied, it is not. */
    rests: z.boolean(),
    /** What the file will come to, where that is known while it grows. */
    expectedBytes: z.number().nullable(),
  })
  .readonly()
export type ListedFile = z.infer<typeof ListedFile>

/** An entry that is not listed, and why. */
export const BadEntry = z.object({ place: z.string(), why: z.string() }).readonly()
export type BadEntry = z.infer<typeof BadEntry>

/** What changed on a card since the event before: files that are new or other than they were, ids that are gone. */
export const CardChange = z
  .object({
    files: z.array(ListedFile).readonly(),
    gone: z.array(z.string()).readonly(),
    /** All that is not listed, where it changed. */
    bad: z.array(BadEntry).readonly().optional(),
  })
  .readonly()
export type CardChange = z.infer<typeof CardChange>

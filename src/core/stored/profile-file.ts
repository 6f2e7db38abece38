import { type Result, failure } from '../result'
import * as z from 'zod'
import { OwnProfile } from '../model/preferences'
import { type Kind, damage, openEnvelope } from './envelope'

const kind: Kind = { kind: 'yard-tally-profiles', what: 'a list of profiles', version: 1 }

const ProfileFile = z.object({
  kind: z.literal(kind.kind),
  version: z.literal(kind.version),
  profiles: z.array(OwnProfile.omit({ id: true })),
})
export type NamedProfile = z.infer<typeof ProfileFile>['profiles'][number]

/** Own profiles as one JSON text, in the order in which they are kept. */
export function writeProfileFile(profiles: readonly NamedProfile[]): string {
  const file: z.input<typeof ProfileFile> = {
    kind: kind.kind,
    version: kind.version,
    profiles: profiles.map(({ name, wrapper, video, sound, burnIn }) => ({
      name,
      wrapper,
      video,
      sound,
      burnIn,
    })),
  }
  return JSON.stringify(file, null, 1)
}

/** Reads own profiles back; all of them or none. */
export function readProfileFile(text: string): Result<{ value: NamedProfile[] }> {
  const opened = openEnvelope(text, kind)
  if (!opened.ok) return opened
  const parsed = ProfileFile.safeParse(opened.value)
  return parsed.success ? { ok: true, value: parsed.data.profiles } : failure(damage(parsed.error))
}

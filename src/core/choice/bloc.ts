import type { Picture } from '../picture/picture'

/** Clips with the same picture vote together. */
export interface Bloc {
  readonly picture: Picture
  readonly ids: readonly string[]
  /** Running time in seconds. */
  readonly seconds: number
  /** Running time × priority. */
  readonly weight: number
  /** It was filmed to be slowed or sped up, and will be shown frame for frame at whatever rate: the share of it that counts. */
  readonly frameForFrame?: number
}

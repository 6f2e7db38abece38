/** What an exchanged JSON file is, and how its older versions become new ones. */
export interface Kind {
  readonly kind: string
  /** What it is in words, for messages: `a project`. */
  readonly what: string
  /** The version that is written. Older ones are migrated, newer ones refused. */
  readonly version: number
  readonly migrations: Readonly<Record<number, (file: Record<string, unknown>) => Record<string, unknown>>>
}

export type Opened<T> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly error: string }

export const refused = (error: string): { readonly ok: false; readonly error: string } => ({
  ok: false,
  error,
})

/** Opens a file of a kind and brings it to the version of today. What is wrong is told; nothing is guessed. */
export function openEnvelope(
  text: string,
  { kind, what, version: newest, migrations }: Kind,
):
  | { readonly ok: false; readonly error: string }
  | { readonly ok: true; readonly value: unknown; readonly version: number } {
  let raw: unknown
  try {
    raw = JSON.parse(text)
  } catch (error) {
    return refused(`The file is not JSON: ${(error as Error).message}. Nothing was changed.`)
  }
  if (typeof raw !== 'object' || raw === null || (raw as { kind?: unknown }).kind !== kind)
    return refused(`The file is JSON, but not ${what} of Yard Tally. Nothing was changed.`)
  let file = raw as Record<string, unknown>
  const version = Number(file.version)
  if (!Number.isInteger(version) || version < 1)
    return refused('The file does not say its version. Nothing was changed.')
  if (version > newest) {
    return refused(
      `The file is of version ${version}; this Yard Tally reads up to version ${newest}. Open it with a newer one. Nothing was changed.`,
    )
  }
  for (let v = version; v < newest; v++) {
    const migrate = migrations[v]
    if (!migrate)
      return refused(`The file is of version ${version}, which is not known. Nothing was changed.`)
    file = migrate(file)
  }
  return { ok: true, value: file, version }
}

/**
 * Where a file departs from its schema, in a sentence.
 * @param nameOf what a place is called by, where it has a name
 */
export function damage(
  { path, message }: { path: readonly PropertyKey[]; message: string },
  nameOf: (path: readonly PropertyKey[]) => string | null = () => null,
): string {
  const name = nameOf(path)
  const place = path.map(String).join('.') || 'its head'
  return `The file is damaged at ${place}${name ? ` (${name})` : ''}: ${message}. Nothing was changed.`
}

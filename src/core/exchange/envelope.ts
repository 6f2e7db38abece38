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
): Opened<unknown> {
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
  return { ok: true, value: file }
}

/** Where a file departs from its schema, in a sentence. */
export const damage = (issue: { path: readonly PropertyKey[]; message: string }): string =>
  `The file is damaged at ${issue.path.map(String).join('.') || 'its head'}: ${issue.message}. Nothing was changed.`

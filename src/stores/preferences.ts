import { type Result, failure } from '../core/result'
import { defineStore } from 'pinia'
import { computed } from 'vue'
import type { Deliverable } from '../core/model/deliverable'
import {
  type Preferences,
  type OwnFormat,
  type OwnProfile,
  defaultPreferences,
} from '../core/model/preferences'
import { type NamedFormat, readFormatFile, writeFormatFile } from '../core/stored/format-file'
import { type NamedProfile, readProfileFile, writeProfileFile } from '../core/stored/profile-file'
import { type Format, formatName, sameFormat } from '../core/format/format'
import type { Draft } from '../core/edit/draft'
import { freeName } from '../core/words/free-name'
import { loadPreferences, savePreferences } from '../storage/preferences'
import { useDocument } from './document/document'
import { newId } from './document/project'

/** A name for what is kept, no longer than names may be. */
const ownName = (wanted: string, kept: readonly { readonly name: string }[]): string =>
  freeName(
    wanted.slice(0, 80),
    kept.map(({ name }) => name),
  )

/** What the editor set once for all projects, own formats among them. Every change can be undone on its page. */
export const usePreferences = defineStore('habits', () => {
  const { doc, show, edit, ...history } = useDocument<Preferences>({ save: savePreferences })
  /** Kept habits are here; until then, and where they cannot be read, the usual ones hold. The list of projects says why. */
  const ready = loadPreferences().then(show, () => undefined)

  const habits = computed<Preferences>(() => doc.value ?? defaultPreferences)
  const ownProfiles = computed<readonly OwnProfile[]>(() => habits.value.ownProfiles)
  const ownFormats = computed<readonly OwnFormat[]>(() => habits.value.ownFormats)

  const set = <Name extends 'mains' | 'onMismatch' | 'shape' | 'rate'>(
    name: Name,
    value: Preferences[Name],
  ) =>
    edit(
      `set ${name === 'onMismatch' ? 'what a mismatch does' : name}`,
      (draft) => void (draft[name] = value),
    )

  /** Gives something another key; an empty one turns it off, null brings the usual one back. */
  const setKey = (id: string, key: string | null, does: string) =>
    edit(`another key: ${does}`, (draft) => {
      if (key === null) delete draft.keys[id]
      else draft.keys[id] = key
    })

  const usualKeys = () => edit('all keys as usual', (draft) => void (draft.keys = {}))

  /** Keeps a format under a name; without one, under what it is. @returns its name */
  function keep(format: Format, name = ''): string {
    const free = ownName(name.trim() || formatName(format), ownFormats.value)
    edit(`keep ${free}`, (draft) => void draft.ownFormats.push({ id: newId(), name: free, format }))
    return free
  }
  const change = (id: string, change: Partial<NamedFormat>) =>
    edit('change an own format', (draft) => {
      const own = draft.ownFormats.find((f) => f.id === id)
      if (own) Object.assign(own, change)
    })
  const drop = (id: string) =>
    edit(`drop ${ownFormats.value.find((own) => own.id === id)?.name}`, (draft) => {
      draft.ownFormats = draft.ownFormats.filter((own) => own.id !== id)
    })

  const exportFormats = () => writeFormatFile(ownFormats.value)

  /** Takes in a file of what is kept; what is here already is left alone. @returns how many came, or what is wrong */
  async function takeIn<Named>(
    file: File,
    what: string,
    read: (text: string) => Result<{ value: Named[] }>,
    isKnown: (named: Named) => boolean,
    keep: (draft: Draft<Preferences>, added: readonly Named[]) => void,
  ): Promise<Result<{ added: number; known: number }>> {
    const text = await file.text().catch(() => null)
    if (text === null) return failure(`${file.name} could not be read. Nothing was changed.`)
    const result = read(text)
    if (!result.ok) return failure(`${file.name}: ${result.error}`)
    const added = result.value.filter((named) => !isKnown(named))
    edit(`import ${added.length} ${what}`, (draft) => {
      keep(draft, added)
    })
    return { ok: true, added: added.length, known: result.value.length - added.length }
  }
  const importFormats = (file: File) =>
    takeIn(
      file,
      'formats',
      readFormatFile,
      ({ name, format }) =>
        ownFormats.value.some((own) => own.name === name && sameFormat(own.format, format)),
      (draft, added) => void draft.ownFormats.push(...added.map((named) => ({ id: newId(), ...named }))),
    )

  /** Keeps how a deliverable is wrapped and encoded, under a name. @returns the name */
  function keepProfile({ wrapper, video, sound, burnIn }: Deliverable, name: string): string {
    const free = ownName(name.trim(), ownProfiles.value)
    edit(`keep ${free}`, (draft) => {
      draft.ownProfiles.push({ id: newId(), name: free, wrapper, video, sound, burnIn })
    })
    return free
  }
  const renameProfile = (id: string, name: string) =>
    edit(`call a profile ${name}`, (draft) => {
      const own = draft.ownProfiles.find((profile) => profile.id === id)
      if (own) own.name = name
    })
  const dropProfile = (id: string) =>
    edit(`drop ${ownProfiles.value.find((own) => own.id === id)?.name}`, (draft) => {
      draft.ownProfiles = draft.ownProfiles.filter((own) => own.id !== id)
    })
  const exportProfiles = () => writeProfileFile(ownProfiles.value)

  const profileKey = (profile: NamedProfile) => writeProfileFile([profile])
  const importProfiles = (file: File) =>
    takeIn(
      file,
      'profiles',
      readProfileFile,
      (profile) => ownProfiles.value.some((own) => profileKey(own) === profileKey(profile)),
      (draft, added) => void draft.ownProfiles.push(...added.map((profile) => ({ ...profile, id: newId() }))),
    )

  return {
    ...history,
    ready,
    habits,
    ownFormats,
    ownProfiles,
    keepProfile,
    renameProfile,
    dropProfile,
    exportProfiles,
    importProfiles,
    set,
    setKey,
    usualKeys,
    keep,
    change,
    drop,
    exportFormats,
    importFormats,
  }
})

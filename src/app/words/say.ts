import { shallowRef, toDisplayString } from 'vue'

/** The texts of another language, by the text that stands in the source; `{0}`, `{1}` … are places for values. */
export type Language = ReadonlyMap<string, string>

/** The language that is spoken; null for the one that stands in the source. */
const spoken = shallowRef<Language | null>(null)

/** Speaks another language from now on; null for the one that stands in the source. What stands on the screen changes with it. */
export function speak(language: Language | null): void {
  spoken.value = language
}

/**
 * A text in the language that is spoken. Every text of a template comes through here (`tools/scripts/said-templates.ts`); one that a language
 * has no words for stays as it is.
 * @param text as it stands in the source, with places for values
 * @param values in the order of the source, whatever the order of the words is
 */
export function say(text: string, values: readonly unknown[] = []): string {
  const said = spoken.value?.get(text) ?? text
  return values.length === 0
    ? said
    : said.replace(/\{(\d+)\}/g, (_, place: string) => toDisplayString(values[Number(place)]))
}

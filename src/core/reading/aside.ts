import { latin } from './bytes/cursor'
import type { ReadResult } from './read'

/** What a file of a card is that is no clip. */
export type AsideKind = 'description' | 'index' | 'thumbnail' | 'mark' | 'text'

/** Names that promise a picture or sound: where their bytes hold none, that is a fault to be told. */
const mediaNames =
  /\.(mp4|m4v|m4a|mov|qt|mxf|avi|mkv|mka|webm|ts|m2ts|mts|mpg|mpeg|vob|m2v|mpv|ogg|ogv|oga|opus|wav|wave|bwf|rf64|mp3|aac|flac|aif|aiff|png|jpe?g|tiff?|gif|webp|bmp|jp2|j2[kc]|dpx|exr|heic|heif|avif|dng|dv|dif|y4m|ivf|obu|h26[45]|hevc|avc|vc1|3gp|flv|wmv|wma|asf|aifc|caf|w64|r3d|braw)$/i
/** Small pictures of clips, by the names that cards give them. */
const thumbnailName = /\.thm$/i
const thumbnailFolder = /(^|\/)[^/]*(thm|thumb)[^/]*(\/|$)/i

/** Whether bytes are text: no zeros, hardly a control character. */
function isText(head: Uint8Array): boolean {
  if (head.length === 0) return false
  let odd = 0
  for (const byte of head) {
    if (byte === 0) return false
    if (byte < 32 && byte !== 9 && byte !== 10 && byte !== 13) odd++
  }
  return odd <= head.length / 100
}

/** Two bytes a letter, with a mark in front or zeros in between. */
const isWideText = (head: Uint8Array): boolean =>
  (head[0] === 0xff && head[1] === 0xfe) || (head[0] === 0xfe && head[1] === 0xff)

/**
 * What a file of a card is that is no clip, by its first bytes: a description, an index, a thumbnail, a mark (an empty file,
 * as locks are). The name decides only where bytes are of no medium: one that promises a medium is a fault, not left aside.
 * @param place folder and name
 * @param head the first bytes
 * @returns null for a clip, and for what should be one
 */
export function asideKind(
  place: string,
  sizeBytes: number,
  head: Uint8Array,
  result: ReadResult,
): AsideKind | null {
  if (result.ok || result.reading) {
    const small = result.reading?.kind === 'still'
    return small && (thumbnailName.test(place) || thumbnailFolder.test(folderOf(place))) ? 'thumbnail' : null
  }
  if (!['not-media', 'empty'].includes(result.error.code) || mediaNames.test(place)) return null
  if (sizeBytes === 0) return 'mark'
  const text = isText(head) || isWideText(head)
  if (!text) return 'index'
  const begins = latin(head.subarray(0, 64))
    .replace(/\0/g, '')
    .replace(/^(ï»¿|ÿþ|þÿ)?\s*/, '')
  return begins.startsWith('<') || begins.startsWith('{') || begins.startsWith('[') ? 'description' : 'text'
}

const folderOf = (place: string) => place.slice(0, Math.max(0, place.lastIndexOf('/')))

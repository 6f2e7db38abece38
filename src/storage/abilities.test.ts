import { expect, it } from 'vitest'
import { type World, lackingIn } from './abilities'

const whole: World = {
  showDirectoryPicker: () => {},
  VideoDecoder: class {},
  VideoEncoder: class {},
  caches: {},
  crossOriginIsolated: true,
  navigator: { storage: { getDirectory: () => {}, persist: () => {} }, serviceWorker: {}, locks: {} },
}

it('names what is lacking, each with what is done instead, and nothing where all is there', () => {
  expect(lackingIn(whole, true)).toEqual([])
  expect(lackingIn({ ...whole, VideoEncoder: undefined }, true).map(({ what }) => what)).toEqual([
    'encoders (WebCodecs)',
  ])
  expect(lackingIn(whole, false)[0]?.instead).toMatch(/nothing can be rendered/)
  const none = lackingIn({ navigator: {} }, false)
  expect(none).toHaveLength(8)
  for (const { instead } of none) expect(instead).toMatch(/^[a-z].{20,}[^.]$/)
})

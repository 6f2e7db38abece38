import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { gainTo, kWeighting, loudnessMeter, loudnessName } from './loudness'

/** A sine, in stretches of a level each: EBU Tech 3341 describes its cases so. */
function sines(
  stretches: readonly (readonly [decibels: number, seconds: number])[],
  rate = 48_000,
  hertz = 1000,
) {
  const count = stretches.reduce((sum, [, seconds]) => sum + Math.round(seconds * rate), 0)
  const samples = new Float32Array(count)
  let at = 0
  for (const [decibels, seconds] of stretches) {
    const amplitude = 10 ** (decibels / 20)
    for (let n = 0; n < Math.round(seconds * rate); n++, at++)
      samples[at] = amplitude * Math.sin((2 * Math.PI * hertz * at) / rate)
  }
  return samples
}
function measured(channels: readonly Float32Array[], rate = 48_000, piece = 4801) {
  const meter = loudnessMeter(channels.length, rate)
  const length = channels[0]!.length
  for (let at = 0; at < length; at += piece)
    meter.add(channels.map((samples) => samples.subarray(at, at + piece)))
  return meter.measured()
}
const stereo = (samples: Float32Array) => [samples, samples]

describe('loudness (EBU Tech 3341)', () => {
  it.each([
    ['1', [[-23, 20]], -23],
    ['2', [[-33, 20]], -33],
    [
      '3',
      [
        [-36, 10],
        [-23, 60],
        [-36, 10],
      ],
      -23,
    ],
    [
      '4',
      [
        [-72, 10],
        [-36, 10],
        [-23, 60],
        [-36, 10],
        [-72, 10],
      ],
      -23,
    ],
    [
      '5',
      [
        [-26, 20],
        [-20, 20.1],
        [-26, 20],
      ],
      -23,
    ],
  ] as const)('case %s is within 0.1 LU', (_, stretches, lufs) => {
    expect(Math.abs(measured(stereo(sines(stretches))).integratedLufs! - lufs)).toBeLessThanOrEqual(0.1)
  })
  it('case 6, five channels and their weights, is within 0.1 LU', () => {
    const at = (decibels: number) => sines([[decibels, 20]])
    const none = new Float32Array(20 * 48_000)
    const six = [at(-28), at(-28), at(-24), none, at(-30), at(-30)]
    expect(Math.abs(measured(six).integratedLufs! - -23)).toBeLessThanOrEqual(0.1)
  })
  it.each([44_100, 96_000])('is the same at %i samples a second', (rate) => {
    expect(
      Math.abs(measured(stereo(sines([[-23, 20]], rate)), rate).integratedLufs! - -23),
    ).toBeLessThanOrEqual(0.1)
  })
  it('has the filters that the recommendation lists for 48 kHz', () => {
    const [shelf, high] = kWeighting(48_000)
    expect(shelf.b.map((x) => Number(x.toFixed(8)))).toEqual([1.53512486, -2.69169619, 1.19839281])
    expect(high.a.map((x) => Number(x.toFixed(8)))).toEqual([-1.99004745, 0.99007225])
  })
  it('is none for silence, and for less than a block', () => {
    expect(measured(stereo(new Float32Array(48_000))).integratedLufs).toBeNull()
    expect(measured(stereo(sines([[-23, 0.2]]))).integratedLufs).toBeNull()
    expect(measured(stereo(new Float32Array(48_000))).truePeakDbtp).toBeNull()
  })
  it('is the same however it comes', () => {
    const sound = stereo(
      sines([
        [-30, 3],
        [-20, 3],
      ]),
    )
    const [small, large] = [777, 100_000].map(
      (piece) => Object.values(measured(sound, 48_000, piece)) as number[],
    )
    small!.forEach((value, i) => expect(value).toBeCloseTo(large![i]!, 9))
  })
})

describe('the range (EBU Tech 3342)', () => {
  it.each([
    [
      [
        [-20, 20],
        [-30, 20],
      ],
      10,
    ],
    [
      [
        [-20, 20],
        [-15, 20],
      ],
      5,
    ],
    [
      [
        [-40, 20],
        [-20, 20],
      ],
      20,
    ],
    [
      [
        [-50, 20],
        [-35, 20],
        [-20, 20],
        [-35, 20],
        [-50, 20],
      ],
      15,
    ],
  ] as const)('of %j is %i LU, within 1', (stretches, lu) => {
    expect(Math.abs(measured(stereo(sines(stretches))).rangeLu! - lu)).toBeLessThanOrEqual(1)
  })
})

describe('the true peak', () => {
  it.each([
    ['a quarter of the rate, on the samples', 12_000, 0, -6],
    ['a quarter of the rate, between them', 12_000, Math.PI / 4, -6],
    ['a sixth of the rate', 8000, Math.PI / 3, -6],
    ['an eighth of the rate', 6000, Math.PI / 8, -6],
  ])('of %s is within 0.2 dB', (_, hertz, phase, decibels) => {
    const samples = Float32Array.from(
      { length: 48_000 },
      (_, n) => 10 ** (decibels / 20) * Math.sin((2 * Math.PI * hertz * n) / 48_000 + phase),
    )
    // Fades in and out, so that nothing rings where it begins.
    for (let n = 0; n < 2000; n++) {
      samples[n]! *= n / 2000
      samples[47_999 - n]! *= n / 2000
    }
    const { truePeakDbtp, samplePeakDbfs } = measured([samples])
    expect(Math.abs(truePeakDbtp! - decibels)).toBeLessThanOrEqual(0.2)
    expect(samplePeakDbfs!).toBeLessThanOrEqual(truePeakDbtp!)
  })
  it('hides nothing by what it does not look at: sums of sines reach what they are', () => {
    const tone = fc.record({
      frequency: fc.double({ min: 40, max: 19_000, noNaN: true }),
      level: fc.double({ min: 0.02, max: 0.3, noNaN: true }),
      phase: fc.double({ min: 0, max: 6.28, noNaN: true }),
    })
    fc.assert(
      fc.property(fc.array(tone, { minLength: 1, maxLength: 3 }), (tones) => {
        const at = (moment: number) =>
          tones.reduce(
            (sum, { frequency, level, phase }) =>
              sum + level * Math.sin((2 * Math.PI * frequency * moment) / 48_000 + phase),
            0,
          )
        const count = 4800
        const meter = loudnessMeter(1, 48_000)
        meter.add([Float32Array.from({ length: count }, (_, i) => at(i))])
        let highest = 0
        for (let i = 64; i < 16 * (count - 64); i++) highest = Math.max(highest, Math.abs(at(i / 16)))
        // What four times the samples cannot show of the steepest of them is 0.7 dB (ITU-R BS.1770-4, annex 2).
        const { truePeakDbtp } = meter.measured()
        expect(truePeakDbtp! - 20 * Math.log10(highest)).toBeGreaterThan(-0.7)
      }),
      { numRuns: 60 },
    )
  })
})

describe('the gain to a loudness', () => {
  const loudness = { integratedLufs: -21.4, rangeLu: 9, truePeakDbtp: -3.2, samplePeakDbfs: -3.5 }
  it('is what is missing, as far as the peak lets it be', () => {
    expect(gainTo(loudness, -23)!.gain).toBeCloseTo(-1.6)
    expect(gainTo(loudness, -16)).toEqual({ gain: expect.closeTo(2.2), limited: true })
    expect(gainTo({ ...loudness, integratedLufs: null }, -23)).toBeNull()
  })

  it('is said in words with its sign', () => {
    const loudness = { integratedLufs: -21.4, rangeLu: 5, truePeakDbtp: -3.2, samplePeakDbfs: -3.4 }
    expect(loudnessName(loudness)).toBe('−21.4 LUFS, range 5.0 LU, peak −3.2 dB')
    expect(loudnessName({ ...loudness, integratedLufs: null, truePeakDbtp: null })).toBe('silent')
    expect(loudnessName({ ...loudness, integratedLufs: null, rangeLu: null })).toBe(
      'too quiet or short to tell, peak −3.2 dB',
    )
  })
})

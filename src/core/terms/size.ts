import { type FrameSize, displayAspect, displaySize, square } from '../picture/size'
import { aspectName, pixelSizeName, shapeName } from '../format/format'
import { fitPicture, sharpnessAtZoom } from '../framing/framing'
import { wholeChroma } from '../resample/picture'
import { type Plane, resamplePlane } from '../resample/plane'
import { tapsOf } from '../resample/taps'
import { rational, toNumber } from '../rational/rational'
import type { Filter } from '../treatment/treatment'
import { percent, pixels, ratio, upTo } from '../words/figures'
import { type DrawnShape, boxWidth, greys, rect, still, drawnText } from './drawing'
import { type ClipInHand, type Term, ofPicture } from './term'

const size = (width: number, height: number, pixelAspect = square): FrameSize => ({
  width,
  height,
  pixelAspect,
})
const upright = (size: FrameSize) => ({ ...size, rotation: 0 as const })
const hd = size(1920, 1080)
const uhd = size(3840, 2160)
const tape = size(720, 576, rational(64, 45))

/** A circle as its samples are stored, and as they are shown. */
const circle = still(
  '720×576 with pixels of 64:45: stored, a circle is 70 % as wide as high; shown 1024 wide, it is round.',
  () => {
    const shown = displaySize(tape)
    const scale = 84 / shown.height
    const frame = (x: number, width: number, text: string): DrawnShape[] => {
      const [across, down] = [width * scale, shown.height * scale]
      // A third of the height, as wide as the frame makes it.
      return [
        rect(x, 6, across, down, { stroke: 'ink' }),
        {
          kind: 'ellipse',
          x: x + across / 2,
          y: 6 + down / 2,
          rx: (28 * width) / shown.width,
          ry: 28,
          stroke: 'accent',
        },
        drawnText(x, 106, text),
      ]
    }
    return [
      ...frame(0, tape.width, `stored ${tape.width}×${tape.height}`),
      ...frame(112, shown.width, `shown ${Math.round(shown.width)}×${shown.height}`),
    ]
  },
)
const shapes = still('Shapes of the same area: 4:3, 16:9, 17:9 (DCI) and 9:16.', () => {
  let x = 0
  return [size(1440, 1080), hd, size(4096, 2160), size(1080, 1920)].flatMap((size): DrawnShape[] => {
    const aspect = toNumber(displayAspect(size))
    const [width, height] = [Math.sqrt(2600 * aspect), Math.sqrt(2600 / aspect)]
    const drawnShapes = [
      rect(x, 92 - height, width, height, { stroke: 'ink', fill: 'sheet' }),
      drawnText(x, 112, aspectName(size)),
    ]
    x += width + 8
    return drawnShapes
  })
})
const sizes = still(
  'Frame sizes to scale: HD 1920×1080, UHD 3840×2160, four times its pixels; DCI 4K 4096×2160.',
  () => {
    const scale = 200 / 4096
    return [
      ['DCI 4K', size(4096, 2160)],
      ['UHD', uhd],
      ['HD', hd],
      ['SD', tape],
    ].flatMap(([name, size]): DrawnShape[] => {
      const { width, height } = size as FrameSize
      return [
        rect(0, 112 - height * scale, width * scale, height * scale, { stroke: 'ink', fill: 'sheet' }),
        ...(name === 'DCI 4K'
          ? [drawnText(width * scale + 6, 112 - height * scale + 10, `${name as string} ${width}×${height}`)]
          : [drawnText(width * scale - 4, 112 - height * scale + 12, name as string, { anchor: 'end' })]),
      ]
    })
  },
)

/** A picture laid into a frame, to scale: what it covers, what stays empty, what hangs out. */
function laid(source: FrameSize, frame: FrameSize, kind: 'fit' | 'fill'): DrawnShape[] {
  const fit = fitPicture(upright(source), frame, { mode: { kind } })
  const scale = Math.min(150 / frame.width, 84 / frame.height)
  const [x, y] = [(boxWidth - frame.width * scale) / 2, 14]
  return [
    rect(x, y, frame.width * scale, frame.height * scale, { fill: 'ink', share: 0.85 }),
    rect(x + fit.left * scale, y + fit.top * scale, fit.width * scale, fit.height * scale, {
      fill: 'accent',
      share: 0.45,
      stroke: 'accent',
    }),
    {
      kind: 'ellipse',
      x: x + (fit.left + fit.width / 2) * scale,
      y: y + (fit.top + fit.height / 2) * scale,
      rx: (Math.min(fit.width, fit.height) * scale) / 3,
      ry: (Math.min(fit.width, fit.height) * scale) / 3,
      stroke: 'sheet',
    },
    drawnText(
      boxWidth / 2,
      115,
      fit.cropShare > 0
        ? `${percent(fit.cropShare)} of the picture cut off`
        : fit.barsShare > 0
          ? `${percent(fit.barsShare)} of the frame stays empty`
          : 'nothing cut, nothing empty',
      { anchor: 'middle' },
    ),
  ]
}
const scope = size(1920, 804)
const old = size(1440, 1080)
const fitIn = (source: FrameSize, frame: FrameSize) => fitPicture(upright(source), frame)
const fillIn = (source: FrameSize, frame: FrameSize) =>
  fitPicture(upright(source), frame, { mode: { kind: 'fill' } })

const inFormat = (say: (fit: ReturnType<typeof fitPicture>, inHand: ClipInHand) => string | null) =>
  ofPicture((video, inHand) => (inHand.format ? say(fitPicture(video, inHand.format), inHand) : null))
const barsOf = inFormat(({ bars, barsShare }) =>
  barsShare < 1e-9
    ? 'In the format it needs no bars.'
    : bars.top + bars.bottom > 0
      ? `Fitted into the format it has ${pixels(bars.top)} empty lines above and ${pixels(bars.bottom)} below.`
      : `Fitted into the format it has ${pixels(bars.left)} empty columns left and ${pixels(bars.right)} right.`,
)
const headroomOf = inFormat(({ headroom }) =>
  headroom > 1.0001
    ? `In the format it can be zoomed to ${percent(headroom)} before pixels are invented.`
    : headroom < 0.9999
      ? `In the format it is enlarged to ${percent(1 / headroom)}: pixels are invented already.`
      : 'It fills the format pixel by pixel: any zoom invents pixels.',
)

const headroom = still(
  'UHD in HD stands at 50 %: it can be zoomed to 200 % before a pixel is invented.',
  () => {
    const { headroom: room } = fitIn(uhd, hd)
    const scale = 200 / uhd.width
    return [
      rect(0, 3, uhd.width * scale, uhd.height * scale, { stroke: 'ink' }),
      rect(
        (uhd.width * scale * (1 - 1 / room)) / 2,
        3 + (uhd.height * scale * (1 - 1 / room)) / 2,
        (uhd.width * scale) / room,
        (uhd.height * scale) / room,
        { stroke: 'accent', fill: 'accent', share: 0.25 },
      ),
      drawnText(206, 14, 'UHD'),
      drawnText(206, 62, `${percent(room)}`),
    ]
  },
)

/** Rings that get finer outwards: what a filter leaves of them is seen at once. */
const rings = (side: number) =>
  greys(side, side, (x, y) => {
    const far = Math.hypot(x - side * 0.1, y - side * 0.1)
    return 128 + 100 * Math.cos((far * far) / (side * 0.9))
  })
/** A square plane in another size, by the kernels that make every frame. */
function scaled(plane: Plane, side: number, filter: Filter): Plane {
  const map = { scale: rational(side, plane.width), shift: rational(0) }
  const taps = () => tapsOf(filter, map, wholeChroma.across, wholeChroma.across, side)
  return resamplePlane(plane, taps(), taps(), 8)
}
const part = ({ width, samples }: Plane, side: number): Plane => {
  const cut = new Uint8Array(side * side)
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) cut[y * side + x] = samples[y * width + x] as number
  return { width: side, height: side, samples: cut }
}
const shown = (x: number, side: number, { width, height, samples }: Plane, text: string): DrawnShape[] => [
  { kind: 'samples', x, y: 4, width: side, height: side, columns: width, rows: height, values: samples },
  drawnText(x, side + 20, text),
]
const zoomed = sharpnessAtZoom(0.5, 2)
const keptAndBaked = still(
  `UHD in HD, zoomed to 200 %: kept, ${percent(zoomed.kept)} of its pixels are still there; baked, ${percent(zoomed.baked)}.`,
  () => {
    const source: Plane = { width: 96, height: 96, samples: rings(96) }
    const baked = scaled(scaled(source, 48, 'bicubic'), 96, 'bicubic')
    return [
      ...shown(20, 96, part(source, 64), `kept: ${percent(zoomed.kept)}`),
      ...shown(146, 96, part(baked, 64), `baked: ${percent(zoomed.baked)}`),
    ]
  },
)
const filters = still(
  'The same crop at 250 %: nearest in steps, bilinear soft, bicubic firmer, Lanczos sharpest with faint rings.',
  () => {
    const source: Plane = { width: 24, height: 24, samples: rings(24) }
    return (['nearest', 'bilinear', 'bicubic', 'lanczos'] as const).flatMap((filter, i) =>
      shown(i * 67, 62, scaled(source, 60, filter), filter === 'lanczos' ? 'Lanczos' : filter),
    )
  },
)

/** Pictures in frames. */
export const sizeTerms: readonly Term[] = [
  {
    id: 'pixel-shape',
    name: 'Pixel shape',
    also: ['pixel shape', 'pixels of', 'pixel aspect'],
    says: 'How wide a stored pixel is shown beside its height; not every pixel is square.',
    costs: 'Forgotten, people look tall or wide and circles become eggs.',
    drawing: circle,
    ofClip: ofPicture((video) => {
      const { num, den } = video.pixelAspect
      if (num === den) return 'Its pixels are square.'
      const { width, height } = displaySize(video)
      return `Its pixels are ${ratio(video.pixelAspect)}: ${video.width}×${video.height} shows as ${Math.round(width)}×${height}.`
    }),
  },
  {
    id: 'display-shape',
    name: 'Display shape',
    also: ['display shape', 'shape', 'aspect'],
    says: 'The shape of the picture as it is seen: width to height, after pixel shape and turn.',
    costs: 'Two pictures of one frame size may differ in shape; one of them is then stretched or barred.',
    drawing: shapes,
    ofClip: ofPicture((video) => `It is seen as ${shapeName(video)}.`),
  },
  {
    id: 'frame-sizes',
    name: 'HD, UHD, DCI 4K',
    also: ['HD', 'UHD', 'DCI 4K', 'frame size', 'frame sizes', 'size', 'sizes', 'picture', 'resolution'],
    says: 'HD is 1920×1080, UHD 3840×2160; DCI 4K is 4096×2160, 17:9 and wider than UHD.',
    costs: 'UHD taken for 4K leaves 256 columns empty or cuts 6 % off.',
    drawing: sizes,
    ofClip: ofPicture((video) => `It is ${pixelSizeName(video)}.`),
  },
  {
    id: 'letterbox',
    name: 'Letterbox',
    also: ['letterbox', 'bars'],
    says: 'Empty bars above and below a picture that is wider than its frame.',
    costs: `2.39:1 in 16:9 leaves ${percent(fitIn(scope, hd).barsShare)} of the frame empty; baked in, bars are scaled with every later change.`,
    drawing: still('A picture of 2.39:1 fitted into 16:9 leaves bars above and below.', () =>
      laid(scope, hd, 'fit'),
    ),
    ofClip: barsOf,
  },
  {
    id: 'pillarbox',
    name: 'Pillarbox',
    also: ['pillarbox'],
    says: 'Empty bars left and right of a picture that is narrower than its frame.',
    costs: `4:3 in 16:9 leaves ${percent(fitIn(old, hd).barsShare)} of the frame empty; portrait in 16:9 leaves 68 %.`,
    drawing: still('A picture of 4:3 fitted into 16:9 leaves bars left and right.', () =>
      laid(old, hd, 'fit'),
    ),
    ofClip: barsOf,
  },
  {
    id: 'crop',
    name: 'Crop',
    also: ['crop', 'cropped', 'fill', 'cut off'],
    says: 'What of a picture is cut off, at its edges or because it fills a frame of another shape.',
    costs: `4:3 filling 16:9 loses ${percent(fillIn(old, hd).cropShare)} of its picture: heads and feet first.`,
    drawing: still('A picture of 4:3 filling 16:9 loses its top and bottom.', () => laid(old, hd, 'fill')),
    ofClip: ofPicture((video, { format }) => {
      if (!format) return null
      const { cropShare } = fitPicture(video, format, { mode: { kind: 'fill' } })
      return cropShare < 1e-9
        ? 'Filling the format it loses nothing.'
        : `Filling the format it loses ${percent(cropShare)} of its picture.`
    }),
  },
  {
    id: 'fit',
    name: 'Fit',
    also: ['fit', 'fitted', 'framing'],
    says: 'The whole picture in the frame, as large as it goes, its shape kept.',
    costs: 'Nothing is lost but the room beside it.',
    drawing: still('A portrait picture fitted into 16:9 stands whole between wide bars.', () =>
      laid(size(1080, 1920), hd, 'fit'),
    ),
    ofClip: barsOf,
  },
  {
    id: 'headroom',
    name: 'Headroom',
    also: ['headroom'],
    says: 'How far a picture can be zoomed before pixels are invented.',
    costs: 'Zoomed beyond it, a shot is soft and stands out among its neighbours.',
    drawing: headroom,
    ofClip: headroomOf,
  },
  {
    id: 'kept-reduction',
    name: 'Kept reduction',
    also: ['kept', 'kept reduction', 'reduction'],
    says: 'A large picture is scaled from its source at whatever zoom it has later.',
    costs: 'Nothing: every later zoom takes its detail from the source.',
    drawing: keptAndBaked,
    ofClip: headroomOf,
  },
  {
    id: 'baked-reduction',
    name: 'Baked reduction',
    also: ['baked', 'baked reduction'],
    says: 'A large picture is first brought to the timeline’s raster, and zoomed from there.',
    costs: 'UHD baked to HD and zoomed to 200 % has half of its detail in each direction invented.',
    drawing: keptAndBaked,
    ofClip: ofPicture((video, { format }) => {
      if (!format) return null
      const { scaleX, scaleY } = fitPicture(video, format)
      const scale = Math.min(scaleX, scaleY)
      if (scale >= 1) return 'In the format it is not reduced: there is nothing to bake.'
      return `Baked to the format and zoomed to 200 %, ${percent(sharpnessAtZoom(scale, 2).baked)} of its pixels are left; kept, ${percent(Math.min(1, sharpnessAtZoom(scale, 2).kept))}.`
    }),
  },
  {
    id: 'resize-filters',
    name: 'Resize filters',
    also: [
      'resize filter',
      'filter',
      'quality',
      'nearest',
      'bilinear',
      'bicubic',
      'lanczos',
      'enlarged',
      'resampled',
    ],
    says: 'How a new pixel is made of old ones: the nearest, or 2, 4 or 6 of them weighed along each axis.',
    costs: 'Too plain softens or steps, too sharp draws rings beside edges; each resampling costs anew.',
    drawing: filters,
    ofClip: inFormat(({ scaleX, scaleY, untouched }) =>
      untouched
        ? 'In the format its pixels stand as they are: no filter touches them.'
        : `In the format it is scaled by ${upTo(scaleX, 3)} across and ${upTo(scaleY, 3)} down.`,
    ),
  },
]

import {
  type DemoScene,
  furnaceHall,
  grainyTower,
  heat,
  mouldCheck,
  phoneVisit,
  pour,
  raising,
  swingingBell,
  tower,
} from './scenes'

/** One drawn clip: what is drawn, at which raster and how often, and how the media toolkit writes it. */
export interface DrawnClip {
  readonly file: string
  readonly scene: DemoScene
  /** The raster that is drawn; the toolkit may scale it afterwards. */
  readonly width: number
  readonly height: number
  /** Drawings per second, as the toolkit takes it. For interlaced clips this is the field rate. */
  readonly rate: string
  readonly count: number
  /** When drawing `n` shows; evenly spaced unless told. */
  readonly time?: (n: number) => number
  /** Which drawing's number is borne, where drawings repeat. */
  readonly number?: (n: number) => number
  /** Black bars drawn above and below, as a share of the height. */
  readonly bars?: number
  /** The picture is drawn lying on its side, as a phone stores it. */
  readonly onItsSide?: boolean
  /** What the file says of its scan, where that is not what it holds or not top field first. */
  readonly says?: { readonly scan: 'progressive' | 'interlaced'; readonly fieldOrder: string | null }
  /** What measuring it has to find, beside nothing: no combs, no repeats, no bars. */
  readonly holds?: {
    readonly fields?: 'top-first' | 'bottom-first'
    readonly repeats?: string
    readonly bars?: readonly [above: number, below: number]
    readonly detail?: readonly [width: number, height: number]
  }
  /** A sound to go with it, as an expression of the time `t`. */
  readonly sound?: string
  readonly encode: readonly string[]
  /** A second pass that copies the streams, for facts that only the wrapper holds. */
  readonly rewrap?: readonly string[]
  /** Keep only this share of the bytes. */
  readonly cut?: number
}

const h264 = (crf: number, ...more: string[]) => [
  '-c:v',
  'libx264',
  '-preset',
  'medium',
  '-crf',
  String(crf),
  '-g',
  '25',
  '-pix_fmt',
  'yuv420p',
  ...more,
]
const rec709 = [
  '-color_primaries',
  'bt709',
  '-color_trc',
  'bt709',
  '-colorspace',
  'bt709',
  '-color_range',
  'tv',
]
const rec601 = ['-color_primaries', 'bt470bg', '-color_trc', 'bt709', '-colorspace', 'bt470bg']
const timecode = (start: string) => ['-timecode', start]
const uhd = { width: 3840, height: 2160, rate: '25' }
const hd = { width: 1920, height: 1080 }

/** The furnace's hum, and the bell struck once a second. */
const hum = '0.05*sin(2*PI*50*t)+0.03*sin(2*PI*123*t)'
const strokes = '0.3*exp(-3*mod(t\\,1))*(sin(2*PI*330*t)+0.6*sin(2*PI*396*t))'

/** A phone's clock: steady 30, then a stretch in poor light at 24, with a little trembling throughout. */
const phoneTime = (n: number) =>
  n / 30 + 0.008 * Math.max(0, Math.min(n, 75) - 45) + 0.001 * Math.sin(n * 1.7)
const phoneExpression = "settb=1/90000,setpts='(N/30+0.008*max(0,min(N,75)-45)+0.001*sin(N*1.7))/TB'"

/** 24 film frames in 60: each shows for two or three frames in turn. */
const filmFrame = (n: number) => Math.floor(((2 * n + 1) * 2) / 10)

export const drawnClips: readonly DrawnClip[] = [
  {
    file: 'hall_wide_A003.mp4',
    scene: furnaceHall,
    ...uhd,
    count: 800,
    sound: hum,
    encode: [...h264(29), ...rec709, ...timecode('10:04:12:00')],
  },
  {
    file: 'hall_wide_A004.mp4',
    scene: (c, w, h, t) => furnaceHall(c, w, h, t + 14),
    ...uhd,
    count: 600,
    sound: hum,
    encode: [...h264(29), ...rec709, ...timecode('10:09:40:12')],
  },
  {
    file: 'pour_A007.mp4',
    scene: pour,
    ...uhd,
    count: 550,
    encode: [...h264(30), ...rec709, ...timecode('10:31:02:06')],
  },
  {
    file: 'bell_swing_B011.mp4',
    scene: swingingBell,
    ...hd,
    rate: '50',
    count: 200,
    sound: strokes,
    encode: [...h264(26), ...rec709, ...timecode('00:14:10:00')],
  },
  {
    file: 'bell_swing_B012.mp4',
    scene: (c, w, h, t) => swingingBell(c, w, h, t + 3),
    ...hd,
    rate: '50',
    count: 200,
    sound: strokes,
    encode: [...h264(26), ...rec709, ...timecode('00:16:01:22')],
  },
  {
    file: 'pour_fast_B014.mp4',
    scene: (c, w, h, t) => pour(c, w, h, t + 5),
    ...hd,
    rate: '100',
    count: 200,
    encode: [...h264(29), ...rec709],
  },
  {
    file: 'visitor_C002.mov',
    scene: (c, w, h, t) => furnaceHall(c, w, h, t + 40),
    width: 4096,
    height: 2160,
    rate: '24000/1001',
    count: 120,
    encode: [...h264(27), ...rec709, ...timecode('01:02:03:04')],
  },
  {
    file: 'tower_P100.mp4',
    scene: tower,
    width: 2704,
    height: 1520,
    rate: '60000/1001',
    count: 240,
    encode: [...h264(28), ...rec709],
  },
  {
    file: 'clerk_phone_0417.mp4',
    scene: phoneVisit,
    ...hd,
    rate: '30',
    count: 120,
    time: phoneTime,
    onItsSide: true,
    encode: [
      '-vf',
      phoneExpression,
      '-fps_mode',
      'passthrough',
      '-enc_time_base',
      '1:90000',
      ...h264(27),
      ...rec709,
      '-video_track_timescale',
      '90000',
    ],
    rewrap: ['-metadata:s:v', 'rotate=270'],
  },
  {
    file: 'archive_reel2.mov',
    scene: raising,
    width: 720,
    height: 576,
    rate: '50',
    count: 200,
    holds: { fields: 'top-first' },
    encode: [
      '-vf',
      'tinterlace=interleave_top,setsar=64/45',
      ...h264(20, '-flags', '+ilme+ildct', '-x264opts', 'tff=1'),
      ...rec601,
    ],
  },
  {
    file: 'archive_tape.mxf',
    scene: (c, w, h, t) => raising(c, w, h, t + 8),
    width: 1440,
    height: 1080,
    rate: '50',
    count: 150,
    holds: { fields: 'top-first' },
    encode: [
      '-vf',
      'tinterlace=interleave_top,setsar=4/3',
      '-c:v',
      'mpeg2video',
      '-flags',
      '+ilme+ildct',
      '-top',
      '1',
      '-q:v',
      '9',
      '-pix_fmt',
      'yuv420p',
      '-bf',
      '2',
      '-g',
      '12',
      ...rec709,
      ...timecode('10:00:00:00'),
    ],
  },
  {
    file: 'furnace_heat_12.avi',
    scene: heat,
    width: 640,
    height: 480,
    rate: '9',
    count: 54,
    encode: ['-c:v', 'mjpeg', '-q:v', '6', '-pix_fmt', 'yuvj420p'],
  },
  {
    file: 'mould_check_D001.mov',
    scene: mouldCheck,
    width: 1280,
    height: 720,
    rate: '25',
    count: 50,
    encode: [
      '-c:v',
      'prores_ks',
      '-profile:v',
      '2',
      '-qscale:v',
      '13',
      '-pix_fmt',
      'yuv422p10le',
      ...rec709,
      ...timecode('11:00:00:00'),
    ],
  },
  {
    file: 'festival_print.mp4',
    scene: swingingBell,
    ...hd,
    rate: '60',
    count: 240,
    time: (n) => filmFrame(n) / 24,
    number: filmFrame,
    bars: 0.125,
    holds: { repeats: '2:3', bars: [134, 134] },
    encode: [...h264(26), ...rec709],
  },
  {
    file: 'yard_dawn_A012.mp4',
    scene: (c, w, h, t) => grainyTower(c, w, h, t + 20),
    width: 2560,
    height: 1440,
    rate: '25',
    count: 75,
    holds: { detail: [2560, 1440] },
    encode: ['-vf', 'scale=3840:2160:flags=bicubic', ...h264(24), ...rec709, ...timecode('05:52:10:00')],
  },
  {
    // A dub whose maker forgot to say that it has fields.
    file: 'archive_dub_07.mp4',
    scene: (c, w, h, t) => swingingBell(c, w, h, t + 1.5),
    ...hd,
    rate: '50',
    count: 100,
    says: { scan: 'progressive', fieldOrder: null },
    holds: { fields: 'top-first' },
    encode: ['-vf', 'tinterlace=interleave_top,setfield=prog', ...h264(20), ...rec709],
  },
  {
    // Digitised with the fields in the wrong order.
    file: 'archive_reel4.mov',
    scene: (c, w, h, t) => swingingBell(c, w, h, t + 6),
    width: 720,
    height: 576,
    rate: '50',
    count: 100,
    says: { scan: 'interlaced', fieldOrder: 'top-first' },
    holds: { fields: 'bottom-first' },
    encode: [
      '-vf',
      'tinterlace=interleave_bottom,setsar=64/45,setfield=tff',
      ...h264(18, '-flags', '+ilme+ildct', '-x264opts', 'tff=1'),
      ...rec601,
    ],
  },
  {
    file: 'mould_take_E003.mxf',
    scene: (c, w, h, t) => mouldCheck(c, w, h, t + 2),
    width: 1280,
    height: 720,
    rate: '25',
    count: 40,
    encode: [
      '-c:v',
      'dnxhd',
      '-profile:v',
      'dnxhr_lb',
      '-pix_fmt',
      'yuv422p',
      ...rec709,
      ...timecode('11:20:00:00'),
    ],
  },
  {
    file: 'tower_dv_03.avi',
    scene: (c, w, h, t) => tower(c, w, h, t + 9),
    width: 720,
    height: 576,
    rate: '50',
    count: 76,
    says: { scan: 'interlaced', fieldOrder: 'bottom-first' },
    holds: { fields: 'bottom-first' },
    encode: ['-vf', 'tinterlace=interleave_bottom,setsar=16/15', '-c:v', 'dvvideo', '-pix_fmt', 'yuv420p'],
  },
  {
    file: 'pour_backup_B015.mp4',
    scene: pour,
    ...hd,
    rate: '50',
    count: 100,
    encode: [...h264(26), ...rec709, '-movflags', '+faststart'],
    cut: 0.4,
  },
]

/**
 * Draws the demo clips and writes them with the media toolkit. Run `npm run demo` (all) or `npm run demo -- NAME…`.
 * Only needed to change the demo: the drawn clips are committed.
 */
import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { mkdir, readFile, rename, rm, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { createCanvas, type SKRSContext2D } from '@napi-rs/canvas'
import { type DrawnClip, drawnClips } from './clips'
import { mark, markBlocks } from './frame-mark'
import { drawTitle } from './title'
import { bellStrike, hallSound } from './sounds'

const folder = join(import.meta.dirname, 'clips')

/** Runs the media toolkit; `feed` writes its standard input. */
async function toolkit(args: string[], feed?: (stdin: NodeJS.WritableStream) => Promise<void>) {
  const child = spawn('ffmpeg', ['-v', 'error', '-y', ...args], { stdio: ['pipe', 'inherit', 'inherit'] })
  const ended = once(child, 'exit')
  if (feed) await feed(child.stdin)
  child.stdin.end()
  const [status] = await ended
  if (status !== 0) throw new Error(`the media toolkit ended with ${status}: ${args.join(' ')}`)
}

function drawMark(c: SKRSContext2D, w: number, h: number, frame: number) {
  const [x, y] = [w * mark.left, h * mark.top]
  const [bw, bh] = [w * mark.blockWidth, h * mark.height]
  c.fillStyle = '#000'
  c.fillRect(x - bw, y - bh * 0.3, bw * (mark.blocks + 8), bh * 1.6)
  c.fillStyle = '#fff'
  markBlocks(frame).forEach((white, i) => white && c.fillRect(x + i * bw, y, bw, bh))
  c.font = `600 ${Math.min(bh, bw * 2)}px monospace`
  c.textAlign = 'left'
  c.fillText(String(frame), x + bw * (mark.blocks + 1), y + bh * 0.85)
}

async function drawClip(clip: DrawnClip) {
  const { width, height } = clip
  const canvas = createCanvas(width, height)
  const c = canvas.getContext('2d')
  const perSecond = clip.rate.split('/').reduce((a, b) => String(Number(a) / Number(b)))
  const [w, h] = clip.onItsSide ? [height, width] : [width, height]
  const target = join(folder, clip.file)
  const partial = join(folder, `partial.${clip.file}`)
  const input = ['-f', 'rawvideo', '-pix_fmt', 'rgba', '-s', `${width}x${height}`, '-r', clip.rate, '-i', '-']
  // Without an own matrix in the filter, drawn colours would be written as BT.601.
  const matrix =
    height >= 720 ? 'scale=out_color_matrix=bt709:out_range=tv' : 'scale=out_color_matrix=bt601:out_range=tv'
  const encode = [...clip.encode]
  const filter = encode.indexOf('-vf')
  if (clip.file.endsWith('.avi')) {
    // Motion JPEG keeps full range BT.601, as JFIF says.
  } else if (filter < 0) encode.unshift('-vf', matrix)
  else encode[filter + 1] += `,${matrix}`
  const sound = clip.sound
    ? [
        '-f',
        'lavfi',
        '-i',
        `aevalsrc=${clip.sound}|${clip.sound}:s=48000:d=${clip.count / Number(perSecond)}`,
        '-c:a',
        'aac',
        '-b:a',
        '96k',
      ]
    : []
  await toolkit(
    [...input, ...sound, ...encode, '-map_metadata', '-1', '-fflags', '+bitexact', partial],
    async (stdin) => {
      for (let n = 0; n < clip.count; n++) {
        c.save()
        if (clip.onItsSide) {
          // Stored lying to the left: a clockwise quarter turn brings it upright.
          c.translate(0, height)
          c.rotate(-Math.PI / 2)
        }
        c.clearRect(0, 0, w, h)
        clip.scene(c, w, h, clip.time ? clip.time(n) : n / Number(perSecond))
        if (clip.bars) {
          c.fillStyle = '#000'
          c.fillRect(0, 0, w, h * clip.bars)
          c.fillRect(0, h * (1 - clip.bars), w, h * clip.bars)
        }
        // The mark is of the picture: it stands within the bars, not on them.
        c.translate(0, h * (clip.bars ?? 0))
        drawMark(c, w, h * (1 - 2 * (clip.bars ?? 0)), clip.number ? clip.number(n) : n)
        c.restore()
        if (!stdin.write(Buffer.from(canvas.data()))) await once(stdin, 'drain')
      }
    },
  )
  if (clip.rewrap) {
    const wrapped = join(folder, `wrapped.${clip.file}`)
    await toolkit(['-i', partial, '-c', 'copy', ...clip.rewrap, '-fflags', '+bitexact', wrapped])
    await rename(wrapped, partial)
  }
  if (clip.cut) {
    const bytes = await readFile(partial)
    await writeFile(partial, bytes.subarray(0, Math.floor(bytes.length * clip.cut)))
  }
  await rename(partial, target)
}

const wanted = process.argv.slice(2)
const asked = (file: string) => wanted.length === 0 || wanted.some((name) => file.includes(name))
await mkdir(folder, { recursive: true })
for (const clip of drawnClips.filter((c) => asked(c.file))) {
  await rm(join(folder, clip.file), { force: true })
  await drawClip(clip)
  console.log(clip.file)
}
if (asked('title_card.png')) await writeFile(join(folder, 'title_card.png'), drawTitle(1280, 720))
const sounds = [
  ['hall_sound.wav', hallSound, 48000, 2, 'pcm_s24le'],
  ['bell_strike.wav', bellStrike, 44100, 1, 'pcm_s16le'],
] as const
for (const [file, sound, sampleRate, channels, codec] of sounds.filter(([file]) => asked(file))) {
  const samples = sound(sampleRate)
  const input = ['-f', 'f32le', '-ar', String(sampleRate), '-ac', String(channels), '-i', '-']
  await toolkit([...input, '-c:a', codec, '-fflags', '+bitexact', join(folder, file)], async (stdin) => {
    stdin.write(Buffer.from(samples.buffer))
  })
  console.log(file)
}

import type { SKRSContext2D } from '@napi-rs/canvas'

/** Draws one moment of a scene into a frame of w×h; `t` in seconds. All sizes are in hundredths of the height. */
export type DemoScene = (c: SKRSContext2D, w: number, h: number, t: number) => void

type Point = readonly [number, number]

const fillShape = (c: SKRSContext2D, colour: string, points: readonly Point[]) => {
  c.fillStyle = colour
  c.beginPath()
  points.forEach(([x, y], i) => (i ? c.lineTo(x, y) : c.moveTo(x, y)))
  c.closePath()
  c.fill()
}
const rect = (
  c: SKRSContext2D,
  colour: string,
  { x, y, w, h }: { readonly x: number; readonly y: number; readonly w: number; readonly h: number },
) => {
  c.fillStyle = colour
  c.fillRect(x, y, w, h)
}
const disc = (c: SKRSContext2D, colour: string, x: number, y: number, r: number) => {
  c.fillStyle = colour
  c.beginPath()
  c.arc(x, y, r, 0, Math.PI * 2)
  c.fill()
}

/** The bell, hung at (x, y), `s` tall, turned by `angle`; the clapper lags behind. */
function bell(
  c: SKRSContext2D,
  { x, y, s, angle }: { readonly x: number; readonly y: number; readonly s: number; readonly angle: number },
  metal = '#b08d4f',
  dark = '#3a2c1c',
) {
  c.save()
  c.translate(x, y)
  c.rotate(angle)
  rect(c, dark, { x: -s * 0.5, y: -s * 0.08, w: s, h: s * 0.12 })
  c.save()
  c.rotate(-angle * 1.6)
  rect(c, dark, { x: -s * 0.02, y: s * 0.2, w: s * 0.04, h: s * 0.8 })
  disc(c, dark, 0, s * 1.02, s * 0.08)
  c.restore()
  c.fillStyle = metal
  c.strokeStyle = dark
  c.lineWidth = s * 0.012
  c.beginPath()
  c.moveTo(-s * 0.12, s * 0.06)
  c.bezierCurveTo(-s * 0.42, s * 0.1, -s * 0.3, s * 0.6, -s * 0.56, s * 0.94)
  c.lineTo(s * 0.56, s * 0.94)
  c.bezierCurveTo(s * 0.3, s * 0.6, s * 0.42, s * 0.1, s * 0.12, s * 0.06)
  c.closePath()
  c.fill()
  c.stroke()
  for (const band of [0.3, 0.34, 0.8, 0.86]) {
    const half = s * (0.3 + 0.2 * Math.max(0, band - 0.45))
    rect(c, dark, { x: -half, y: s * band, w: half * 2, h: s * 0.012 })
  }
  c.fillStyle = dark
  c.font = `500 ${s * 0.09}px sans-serif`
  c.textAlign = 'center'
  c.fillText('VIVOS VOCO', 0, s * 0.6)
  c.restore()
}

function person(
  c: SKRSContext2D,
  { x, ground }: { readonly x: number; readonly ground: number },
  s: number,
  step: number,
  coat = '#20262d',
) {
  const swing = Math.sin(step) * s * 0.14
  fillShape(c, coat, [
    [x, ground - s * 0.5],
    [x + s * 0.06, ground - s * 0.5],
    [x + swing + s * 0.06, ground],
    [x + swing, ground],
  ])
  fillShape(c, coat, [
    [x, ground - s * 0.5],
    [x + s * 0.06, ground - s * 0.5],
    [x - swing + s * 0.06, ground],
    [x - swing, ground],
  ])
  fillShape(c, coat, [
    [x - s * 0.08, ground - s * 0.46],
    [x + s * 0.14, ground - s * 0.46],
    [x + s * 0.1, ground - s * 0.84],
    [x - s * 0.04, ground - s * 0.84],
  ])
  disc(c, '#c79a78', x + s * 0.03, ground - s * 0.91, s * 0.08)
}

export const furnaceHall: DemoScene = (c, w, h, t) => {
  rect(c, '#2b2a2b', { x: 0, y: 0, w, h })
  for (let i = 0; i < 5; i++) {
    const x = w * (0.08 + i * 0.21)
    fillShape(c, '#5d6770', [
      [x, 0],
      [x + w * 0.09, 0],
      [x + w * 0.09, h * 0.34],
      [x, h * 0.34],
    ])
    for (let k = 1; k < 4; k++) rect(c, '#2b2a2b', { x, y: (h * 0.34 * k) / 4, w: w * 0.09, h: h * 0.008 })
    fillShape(c, 'rgba(214,220,222,0.08)', [
      [x, h * 0.34],
      [x + w * 0.09, h * 0.34],
      [x - w * 0.05, h * 0.82],
      [x - w * 0.2, h * 0.82],
    ])
  }
  rect(c, '#463d36', { x: 0, y: h * 0.8, w, h: h * 0.2 })
  const glow = 0.75 + 0.25 * Math.sin(t * 3.1)
  fillShape(c, '#574a41', [
    [w * 0.64, h * 0.8],
    [w * 0.66, h * 0.4],
    [w * 0.9, h * 0.4],
    [w * 0.92, h * 0.8],
  ])
  disc(c, `rgba(226,120,44,${0.35 * glow})`, w * 0.78, h * 0.66, h * 0.2)
  disc(c, '#e8893a', w * 0.78, h * 0.66, h * 0.11)
  disc(c, '#f7d58c', w * 0.78, h * 0.66, h * 0.06 * glow)
  const chain = Math.sin(t * 1.3) * 0.2
  for (let i = 0; i < 22; i++)
    disc(c, '#8d877d', w * 0.36 + Math.sin(chain) * i * h * 0.022, i * h * 0.022, h * 0.007)
  bell(
    c,
    { x: w * 0.36 + Math.sin(chain) * h * 0.48, y: h * 0.48, s: h * 0.26, angle: chain * 0.5 },
    '#8d8a80',
  )
  person(c, { x: w * ((0.05 + t * 0.06) % 1.1) - w * 0.04, ground: h * 0.88 }, h * 0.34, t * 5)
  person(c, { x: w * (1.05 - ((t * 0.045) % 1.1)), ground: h * 0.93 }, h * 0.38, t * 4, '#37302a')
}

export const swingingBell: DemoScene = (c, w, h, t) => {
  rect(c, '#9fb0b8', { x: 0, y: 0, w, h })
  for (let i = 0; i < 4; i++)
    disc(c, '#b4c2c8', w * ((0.2 * i + t * 0.03) % 1.2), h * (0.2 + 0.09 * i), h * 0.13)
  for (const x of [0, 0.42, 0.86]) rect(c, '#5a4636', { x: w * x, y: 0, w: w * 0.14, h })
  rect(c, '#4a392c', { x: 0, y: 0, w, h: h * 0.13 })
  rect(c, '#4a392c', { x: 0, y: h * 0.88, w, h: h * 0.12 })
  bell(c, { x: w * 0.5, y: h * 0.16, s: h * 0.62, angle: 0.5 * Math.sin(t * 2.9) })
}

export const pour: DemoScene = (c, w, h, t) => {
  rect(c, '#1f1b1a', { x: 0, y: 0, w, h })
  const heat = 0.8 + 0.2 * Math.sin(t * 9)
  disc(c, 'rgba(190,84,30,0.25)', w * 0.55, h * 0.62, h * 0.44 * heat)
  c.save()
  c.translate(w * 0.36, h * 0.26)
  c.rotate(0.35 + 0.06 * Math.sin(t))
  fillShape(c, '#6b6059', [
    [-h * 0.2, -h * 0.16],
    [h * 0.2, -h * 0.16],
    [h * 0.15, h * 0.18],
    [-h * 0.15, h * 0.18],
  ])
  rect(c, '#f2a94e', { x: -h * 0.19, y: -h * 0.17, w: h * 0.38, h: h * 0.035 })
  c.restore()
  c.strokeStyle = '#ffd27a'
  c.lineWidth = h * 0.03
  c.beginPath()
  c.moveTo(w * 0.36 + h * 0.2, h * 0.2)
  c.quadraticCurveTo(
    w * 0.36 + h * 0.36,
    h * 0.24,
    w * 0.36 + h * 0.37 + Math.sin(t * 14) * h * 0.006,
    h * 0.72,
  )
  c.stroke()
  fillShape(c, '#4d423b', [
    [w * 0.46, h * 0.72],
    [w * 0.7, h * 0.72],
    [w * 0.74, h],
    [w * 0.42, h],
  ])
  rect(c, '#ffbf5e', { x: w * 0.5, y: h * 0.715, w: w * 0.16, h: h * 0.018 })
  for (let i = 0; i < 46; i++) {
    const age = (t * 1.6 + i * 0.137) % 1
    const way = i * 2.399
    const x = w * 0.57 + Math.cos(way) * age * h * 0.42
    const y = h * 0.7 - Math.abs(Math.sin(way)) * age * h * 0.5 + age * age * h * 0.34
    disc(c, age < 0.5 ? '#ffe6a8' : '#d9772b', x, y, h * 0.006 * (1.2 - age))
  }
  person(c, { x: w * 0.16, ground: h * 0.95 }, h * 0.56, Math.sin(t) * 0.4, '#332b27')
}

export const tower: DemoScene = (c, w, h, t) => {
  rect(c, '#c9b79a', { x: 0, y: 0, w, h })
  disc(c, '#f0dfb8', w * 0.78, h * 0.26, h * 0.09)
  for (let i = 0; i < 6; i++)
    disc(c, '#d9c9ae', w * ((0.19 * i + t * 0.05) % 1.25) - w * 0.1, h * (0.34 + 0.035 * (i % 3)), h * 0.1)
  for (let i = 0; i < 12; i++)
    fillShape(c, '#7b6a58', [
      [w * (i / 11 - 0.08), h],
      [w * (i / 11), h * (0.68 + 0.05 * (i % 3))],
      [w * (i / 11 + 0.08), h],
    ])
  rect(c, '#54463b', { x: w * 0.36, y: h * 0.22, w: w * 0.16, h: h * 0.78 })
  fillShape(c, '#3f352e', [
    [w * 0.34, h * 0.22],
    [w * 0.44, h * 0.02],
    [w * 0.54, h * 0.22],
  ])
  rect(c, '#c9b79a', { x: w * 0.4, y: h * 0.3, w: w * 0.08, h: h * 0.2 })
  bell(c, { x: w * 0.44, y: h * 0.31, s: h * 0.15, angle: 0.45 * Math.sin(t * 2.2) })
  for (let k = 0; k < 5; k++)
    rect(c, '#463a31', { x: w * 0.375, y: h * (0.58 + k * 0.075), w: w * 0.13, h: h * 0.006 })
  for (let i = 0; i < 7; i++) {
    const x = w * ((0.1 * i + t * 0.11) % 1.1)
    const y = h * (0.16 + 0.03 * Math.sin(i * 2 + t * 2))
    const flap = Math.sin(t * 11 + i) * h * 0.012
    fillShape(c, '#2e2721', [
      [x - h * 0.02, y - flap],
      [x, y + h * 0.004],
      [x + h * 0.02, y - flap],
      [x, y + h * 0.008],
    ])
  }
}

export const raising: DemoScene = (c, w, h, t) => {
  rect(c, '#8f8778', { x: 0, y: 0, w, h })
  rect(c, '#6b6457', { x: 0, y: h * 0.78, w, h: h * 0.22 })
  fillShape(c, '#4d473d', [
    [w * 0.2, h * 0.8],
    [w * 0.49, h * 0.06],
    [w * 0.51, h * 0.06],
    [w * 0.8, h * 0.8],
    [w * 0.77, h * 0.8],
    [w * 0.5, h * 0.12],
    [w * 0.23, h * 0.8],
  ])
  const sway = Math.sin(t * 2.4)
  rect(c, '#2f2b25', { x: w * (0.5 + 0.11 * sway) - 1, y: h * 0.08, w: w * 0.004, h: h * 0.22 })
  bell(c, { x: w * (0.5 + 0.11 * sway), y: h * 0.3, s: h * 0.34, angle: 0.2 * sway }, '#a69c84')
  for (let i = 0; i < 5; i++)
    person(c, { x: w * ((0.06 + 0.2 * i + t * 0.035) % 1), ground: h * 0.94 }, h * 0.3, t * 4 + i, '#35312a')
}

export const phoneVisit: DemoScene = (c, w, h, t) => {
  rect(c, '#b9bfb4', { x: 0, y: 0, w, h })
  rect(c, '#74705f', { x: 0, y: h * 0.7, w, h: h * 0.3 })
  rect(c, '#5d4b3c', { x: w * 0.16, y: h * 0.2, w: w * 0.68, h: h * 0.52 })
  rect(c, '#312a25', { x: w * 0.24, y: h * 0.26, w: w * 0.52, h: h * 0.46 })
  const near = 0.12 + 0.02 * Math.sin(t * 2)
  bell(c, { x: w * 0.5, y: h * 0.32, s: h * 0.26, angle: 0.12 * Math.sin(t * 3) })
  person(c, { x: w * (0.2 + 0.14 * t), ground: h * 0.86 }, h * (0.3 + near), t * 6, '#2f4456')
}

export const heat: DemoScene = (c, w, h, t) => {
  rect(c, '#14103a', { x: 0, y: 0, w, h })
  const rings: [string, number][] = [
    ['#3b1a70', 0.46],
    ['#7d2482', 0.36],
    ['#c73e63', 0.27],
    ['#f0803c', 0.18],
    ['#f9d65c', 0.1],
  ]
  for (const [colour, r] of rings)
    disc(c, colour, w * (0.55 + 0.05 * Math.sin(t)), h * 0.52, h * r * (1 + 0.05 * Math.sin(t * 3 + r * 9)))
  for (const [colour, r] of rings.slice(0, 3)) disc(c, colour, w * (0.16 + 0.03 * t), h * 0.7, h * r * 0.36)
  c.fillStyle = '#ffffff'
  c.font = `${h * 0.04}px monospace`
  c.fillText(`${(1086 + 14 * Math.sin(t * 1.7)).toFixed(0)} °C`, w * 0.04, h * 0.08)
}

export const mouldCheck: DemoScene = (c, w, h, t) => {
  rect(c, '#5a4c40', { x: 0, y: 0, w, h })
  disc(c, '#7a6755', w * 0.5, h * 0.5, h * 0.42)
  disc(c, '#43382f', w * 0.5, h * 0.5, h * 0.26)
  c.save()
  c.translate(w * 0.5, h * 0.5)
  c.rotate(t * 0.25)
  c.fillStyle = '#e3d6bd'
  c.font = `600 ${h * 0.05}px serif`
  c.textAlign = 'center'
  'CAST ANEW FROM THE CRACKED BELL OF THE LOWER TOWER · '.split('').forEach((letter) => {
    c.rotate((Math.PI * 2) / 53)
    c.fillText(letter, 0, -h * 0.33)
  })
  c.restore()
  disc(c, 'rgba(255,244,214,0.14)', w * (0.5 + 0.25 * Math.cos(t)), h * (0.5 + 0.2 * Math.sin(t)), h * 0.2)
}

/** The tower with what a sharp lens shows of it: grains of stone and gravel, each a pixel or two, always in the same places. */
export const grainyTower: DemoScene = (c, w, h, t) => {
  tower(c, w, h, t)
  let x = 20_260_501
  const random = () => (x = (Math.imul(x, 1103515245) + 12345) & 0x7fffffff) / 0x7fffffff
  for (let i = 0; i < 60_000; i++) {
    const [left, top, side] = [random() * w, h * (0.2 + 0.8 * random()), 1 + Math.floor(random() * 2)]
    c.fillStyle = random() < 0.5 ? 'rgba(40,30,20,0.35)' : 'rgba(255,240,215,0.3)'
    c.fillRect(Math.floor(left), Math.floor(top), side, side)
  }
}

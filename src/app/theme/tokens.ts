import { present } from '../../core/assert'
import { theme } from 'ant-design-vue'
import type { ThemeConfig } from 'ant-design-vue/es/config-provider/context'

/** The colours of both editions: the one place where they stand. */
const editions = {
  light: {
    paper: '#F6F3EB',
    sheet: '#FFFDF8',
    line: '#DCD4C3',
    ink: '#1D2733',
    quiet: '#5E6672',
    accent: '#234E70',
    onAccent: '#FFFDF8',
    ground: '#5A5856',
    free: '#5E6672',
    light: '#2C7A72',
    heavy: '#95590F',
    severe: '#8A2B58',
  },
  night: {
    paper: '#14181D',
    sheet: '#1B2128',
    line: '#2E3640',
    ink: '#E8E4DA',
    quiet: '#9AA3AD',
    accent: '#8DB9DB',
    onAccent: '#14181D',
    ground: '#3A3A3A',
    free: '#9AA3AD',
    light: '#5FB3A9',
    heavy: '#D79B47',
    severe: '#DB7DAC',
  },
} as const

export type Edition = keyof typeof editions

/** The colours as CSS variables, `--paper` … */
export function cssVariables(edition: Edition): Record<string, string> {
  return Object.fromEntries(Object.entries(editions[edition]).map(([name, value]) => [`--${name}`, value]))
}

/**
 * Fills for the series of a chart: tints from ink blue into the colour of the rules, every second one hatched, so that
 * neighbours are told apart without colour. Grades keep their own colours to themselves.
 */
export function chartFills(edition: Edition, count: number): (string | CanvasPattern)[] {
  const { accent, line } = editions[edition]
  const channel = (hex: string, at: number) => parseInt(hex.slice(1 + 2 * at, 3 + 2 * at), 16)
  return Array.from({ length: count }, (_, i) => {
    const part = count > 1 ? i / (count - 1) : 0
    const mixed = [0, 1, 2].map((at) =>
      Math.round(channel(accent, at) * (1 - part) + channel(line, at) * part),
    )
    const tint = `rgb(${mixed.join(' ')})`
    return i % 2 ? hatched(tint, editions[edition].sheet) : tint
  })
}

function hatched(tint: string, ground: string): CanvasPattern | string {
  const side = 6
  const context = present(new OffscreenCanvas(side, side).getContext('2d'), 'a new canvas is drawn on')
  context.fillStyle = ground
  context.fillRect(0, 0, side, side)
  context.strokeStyle = tint
  context.lineWidth = 2.4
  context.beginPath()
  for (const at of [-side, 0, side]) {
    context.moveTo(at - 1, side + 1)
    context.lineTo(at + side + 1, -1)
  }
  context.stroke()
  return context.createPattern(context.canvas, 'repeat') ?? tint
}

export const sans = "'IBM Plex Sans', sans-serif"

/** The component library in our colours: hairlines, small corners, no shadows on still surfaces. */
export function componentTheme(edition: Edition): ThemeConfig {
  const c = editions[edition]
  return {
    algorithm: edition === 'night' ? theme.darkAlgorithm : theme.defaultAlgorithm,
    token: {
      colorPrimary: c.accent,
      colorInfo: c.accent,
      colorLink: c.accent,
      colorTextBase: c.ink,
      colorBgBase: c.sheet,
      colorBgContainer: c.sheet,
      colorBgElevated: c.sheet,
      colorBorder: edition === 'light' ? '#B9B09C' : '#48525E',
      colorBorderSecondary: c.line,
      colorText: c.ink,
      colorTextSecondary: c.quiet,
      colorTextDescription: c.quiet,
      colorTextPlaceholder: c.quiet,
      colorTextLightSolid: c.onAccent,
      colorError: c.severe,
      colorWarning: c.heavy,
      colorSuccess: c.light,
      borderRadius: 2,
      borderRadiusLG: 3,
      borderRadiusSM: 2,
      fontFamily: sans,
      fontSize: 13,
      controlHeight: 28,
      boxShadow: 'none',
      motionDurationMid: '0.1s',
      motionDurationSlow: '0.12s',
    },
  }
}

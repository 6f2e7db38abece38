import { createCanvas } from '@napi-rs/canvas'

/** The film's title card, a PNG with a transparent ground. */
export function drawTitle(width: number, height: number): Buffer {
  const canvas = createCanvas(width, height)
  const c = canvas.getContext('2d')
  c.textAlign = 'center'
  c.fillStyle = '#f6f3eb'
  c.font = `600 ${height * 0.14}px serif`
  c.fillText('The Ninth Bell', width / 2, height * 0.5)
  c.fillRect(width * 0.32, height * 0.57, width * 0.36, height * 0.006)
  c.font = `${height * 0.045}px serif`
  c.fillText('how a cracked bell was cast anew', width / 2, height * 0.67)
  return canvas.toBuffer('image/png')
}

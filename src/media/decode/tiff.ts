/**
 * The picture of a TIFF that the toolkit does not know: with places of eight bytes, or of floating-point samples, which are held between
 * black and white. Eight bits of each sample are shown. What it takes is loaded with the first such picture.
 * @throws Error where it cannot be decoded
 */
export async function tiffPicture(blob: Blob): Promise<ImageData> {
  const { fromBlob } = await import('geotiff')
  const image = await (await fromBlob(blob)).getImage()
  const [width, height, parts] = [image.getWidth(), image.getHeight(), image.getSamplesPerPixel()]
  const samples = await image.readRasters({ interleave: true })
  const [bits, isFloat] = [image.getBitsPerSample(), image.getSampleFormat() === 3]
  const white = isFloat ? 1 : 2 ** bits - 1
  const isGrey = parts < 3
  const isInverse = image.fileDirectory.getValue('PhotometricInterpretation') === 0
  const picture = new ImageData(width, height)
  const shown = (at: number) => {
    const share = Math.min(1, Math.max(0, (samples[at] ?? 0) / white))
    return 255 * (isInverse ? 1 - share : share)
  }
  for (let i = 0; i < width * height; i++) {
    const from = i * parts
    const [r, g, b] = isGrey ? [from, from, from] : [from, from + 1, from + 2]
    picture.data[4 * i] = shown(r)
    picture.data[4 * i + 1] = shown(g)
    picture.data[4 * i + 2] = shown(b)
    const alpha = isGrey ? 1 : 3
    picture.data[4 * i + 3] =
      parts > alpha ? 255 * Math.min(1, (samples[from + alpha] ?? white) / white) : 255
  }
  return picture
}

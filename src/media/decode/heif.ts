/**
 * The primary picture of a HEIF whose codec the browser has not (HEVC): tiles put together, cropped, mirrored and turned as the file says.
 * What it takes is loaded with the first such picture.
 * @returns null where it cannot be decoded
 */
export async function heifPicture(bytes: Uint8Array): Promise<ImageData | null> {
  const { default: start } = await import('libheif-js/libheif-wasm/libheif-bundle.mjs')
  const { HeifDecoder } = start()
  const images = new HeifDecoder().decode(bytes)
  try {
    const primary = images.find((image) => image.is_primary()) ?? images[0]
    if (!primary) return null
    const picture = new ImageData(primary.get_width(), primary.get_height())
    return await new Promise((done) => primary.display(picture, (shown) => done(shown && picture)))
  } finally {
    for (const image of images) image.free()
  }
}

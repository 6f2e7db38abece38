import { expose, transfer } from 'comlink'
import { heifPicture } from './heif'
import { tiffPicture } from './tiff'

/** Decodes stills by packages: in a worker of its own, so that these are shipped once and not with each worker that shows pictures. */
const handed = (picture: ImageData): ImageData => transfer(picture, [picture.data.buffer])

const service = {
  async heif(file: Blob): Promise<ImageData | null> {
    const picture = await heifPicture(new Uint8Array(await file.arrayBuffer()))
    return picture && handed(picture)
  },
  tiff: async (file: Blob): Promise<ImageData> => handed(await tiffPicture(file)),
}
export type StillsService = typeof service
expose(service)

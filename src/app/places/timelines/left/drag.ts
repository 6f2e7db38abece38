import { type Clip } from '../../../../core/model/clip'

/** What a drag of a clip carries: its id, under a type of our own, so that nothing else is taken for it. */
const type = 'text/yard-tally-clip'

export const dragClip = (event: DragEvent, clip: Clip): void => event.dataTransfer?.setData(type, clip.id)

/** The id of the clip that is dropped; null where something else is. */
export const droppedClip = (event: DragEvent): string | null => event.dataTransfer?.getData(type) || null

/** Whether every part is measured once at its smallest: figures that say nothing but that the bench still runs. */
export const isSmallest = process.argv.includes('--smallest')

/** How much of something is measured: as much as usual, or the least that goes through every line. */
export const sized = (usual: number, least: number): number => (isSmallest ? least : usual)

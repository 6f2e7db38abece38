/** The four places, in the order of the line. */
export const places = ['arrivals', 'yard', 'timelines', 'dispatch'] as const
export type Place = (typeof places)[number]

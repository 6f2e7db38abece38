import dayjs from 'dayjs'

/** Where moments become text for people: the one place that knows how. */

/** `14:05`. */
export const clockOf = (at: string): string => dayjs(at).format('HH:mm')
/** `14:05` of today, else `3 May 14:05`; nothing where there is no moment. */
export const recently = (at: string): string =>
  !at ? '' : dayjs(at).isSame(dayjs(), 'day') ? clockOf(at) : dayAndClock(at)
/** `3 May 14:05`. */
export const dayAndClock = (at: string): string => dayjs(at).format('D MMM HH:mm')
/** `2026-05-03 14:05`, for paper and logs; of now where no moment is told. */
export const stamp = (at?: string): string => dayjs(at).format('YYYY-MM-DD HH:mm')

import * as z from 'zod'

/** Why a file could not be read, or not wholly. */
export const FaultCode = z.enum(['empty', 'not-media', 'truncated', 'damaged', 'unsupported', 'unreadable'])
export type FaultCode = z.infer<typeof FaultCode>

/** What went wrong, where in the file, and what to do; `offset` in bytes. */
export const Fault = z.object({ code: FaultCode, message: z.string(), offset: z.number().optional() })
export type Fault = z.infer<typeof Fault>

/** Thrown inside a reader when the bytes break a rule; `read` turns it into a value before it leaves the core. */
export class ReadingFault extends Error {
  constructor(
    readonly code: FaultCode,
    message: string,
    readonly offset?: number,
  ) {
    super(message)
    this.name = 'ReadingFault'
  }

  get fault(): Fault {
    return this.offset === undefined
      ? { code: this.code, message: this.message }
      : { code: this.code, message: this.message, offset: this.offset }
  }
}

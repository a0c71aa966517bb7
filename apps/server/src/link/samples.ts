// Live samples carry a token: with it the server knows again what its own link gave, for which loop and when.
import { createHmac, timingSafeEqual } from 'node:crypto'
import { z } from 'zod'

const Sample = z.strictObject({
  loopId: z.string(),
  at_ms: z.number(),
  simulated: z.boolean(),
  knots: z.record(z.string(), z.strictObject({ value: z.number(), unit: z.string() })),
})
export type GivenSample = z.infer<typeof Sample>

export interface SampleTokens {
  issue(sample: GivenSample): string
  /** The sample of a token that was issued here; undefined for any other. */
  read(token: string): GivenSample | undefined
}

export function sampleTokens(secret: string): SampleTokens {
  const mark = (body: string) => createHmac('sha256', secret).update(body).digest()
  return {
    issue(sample) {
      const body = Buffer.from(JSON.stringify(sample)).toString('base64url')
      return `${body}.${mark(body).toString('base64url')}`
    },
    read(token) {
      const [body = '', given = ''] = token.split('.')
      const [own, theirs] = [mark(body), Buffer.from(given, 'base64url')]
      if (own.length !== theirs.length || !timingSafeEqual(own, theirs)) return undefined
      return Sample.safeParse(JSON.parse(Buffer.from(body, 'base64url').toString())).data
    },
  }
}

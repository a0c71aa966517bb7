// Text of a file as it was sent.
import { HttpProblem } from '../http/problems.ts'

/** JSON of bytes. @throws HttpProblem `invalid-input`, `not-utf-8` */
export function readJson(bytes: Uint8Array): unknown {
  const text = decodeText(bytes)
  try {
    return JSON.parse(text)
  } catch {
    throw new HttpProblem(400, 'invalid-input', 'The body is not JSON, or it ends too early.')
  }
}

/** UTF-8 text; a byte order mark is dropped, any other encoding refused. @throws HttpProblem `not-utf-8` */
export function decodeText(bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    throw new HttpProblem(
      422,
      'not-utf-8',
      'This file is not UTF-8 text. Save it again as UTF-8 and send that. Nothing was stored.',
    )
  }
}

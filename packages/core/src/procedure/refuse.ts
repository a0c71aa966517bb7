// A gate that stays shut, and why.
import { Refusal, type RefusalCode } from '../refusal/index.ts'

/** @throws Refusal */
export const refuse = (code: RefusalCode, says: string): never => {
  throw new Refusal(code, says)
}

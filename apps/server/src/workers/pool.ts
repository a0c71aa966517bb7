// The pool of worker threads, with a limit of time and memory for each job; a job ends when the one who asked has gone
// away.
import { Refusal } from '@calm-loop/core/refusal'
import { createRequire } from 'node:module'
import { availableParallelism } from 'node:os'
import { pathToFileURL } from 'node:url'
import { Piscina } from 'piscina'
import { HttpProblem } from '../http/problems.ts'
import type { Jobs } from './jobs.ts'
import type { Outcome } from './worker.ts'

/** How long a job may take, s: drawings and documents are waited for by a person, files are known to take long. */
const LIMITS_s: Partial<Record<keyof Jobs, number>> = {
  wiringPdf: 2.5,
  wiringSvg: 2.5,
  wiringCsv: 2.5,
  wiringList: 2.5,
  loopDrawing: 4,
  summary: 5,
  parseBundle: 60,
  bundleText: 60,
  parseRegister: 60,
  registerText: 60,
}
const USUAL_s = 20
const MEMORY_MB = 768
const MOST_WAITING = 64

type Input<N extends keyof Jobs> = Parameters<Jobs[N]>[0]
type Result<N extends keyof Jobs> = Awaited<ReturnType<Jobs[N]>>

export interface Workers {
  /** @throws HttpProblem `too-much-work` when it takes too long or too much memory, `busy` when too many wait */
  run<N extends keyof Jobs>(name: N, input: Input<N>, signal?: AbortSignal): Promise<Result<N>>
  close(): Promise<void>
}

const tooMuch = (limit_s: number) =>
  new HttpProblem(
    422,
    'too-much-work',
    `This is too large to be worked out here: it took more than ${limit_s} s or more memory than one piece of ` +
      'work may have. Divide it and try again.',
  )

/** A result that crossed from a thread: bytes come as a plain array of bytes. */
function settled(outcome: Outcome): unknown {
  if ('done' in outcome) return outcome.done instanceof Uint8Array ? Buffer.from(outcome.done) : outcome.done
  if ('refusal' in outcome) throw new Refusal(outcome.refusal.code, outcome.refusal.says)
  const { status, code, says, extra } = outcome.problem
  throw new HttpProblem(status, code, says, extra)
}

/**
 * @param patience how many times the usual each job may take: for slow machines, and where several things are tried at
 * once
 */
export function openWorkers(patience = 1): Workers {
  const tsx = pathToFileURL(createRequire(import.meta.url).resolve('tsx')).href
  const threads = Math.max(2, Math.min(4, availableParallelism()))
  const pool = new Piscina({
    filename: new URL('./worker.ts', import.meta.url).href,
    execArgv: ['--import', tsx],
    minThreads: 1,
    maxThreads: threads,
    maxQueue: MOST_WAITING,
    idleTimeout: 60_000,
    resourceLimits: { maxOldGenerationSizeMb: MEMORY_MB },
  })
  // What a thread dies of reaches the one who asked; it must not end the program.
  pool.on('error', () => undefined)
  return {
    async run<N extends keyof Jobs>(name: N, input: Input<N>, signal?: AbortSignal): Promise<Result<N>> {
      const limit_s = patience * (LIMITS_s[name] ?? USUAL_s)
      const late = new AbortController()
      const timer = setTimeout(() => late.abort(), 1000 * limit_s)
      const either = signal ? AbortSignal.any([signal, late.signal]) : late.signal
      try {
        return settled((await pool.run({ name, input }, { signal: either })) as Outcome) as Result<N>
      } catch (error) {
        const { code, name: kind } = error as { code?: string; name?: string }
        if (kind === 'AbortError' || code === 'ERR_WORKER_OUT_OF_MEMORY') {
          if (signal?.aborted) throw new HttpProblem(499, 'asker-left', 'Whoever asked has gone away.')
          throw tooMuch(limit_s)
        }
        if (/queue is at limit|task queue/i.test((error as Error).message ?? ''))
          throw new HttpProblem(503, 'busy', 'Too much is being worked out just now. Try again in a moment.')
        throw error
      } finally {
        clearTimeout(timer)
      }
    },
    close: () => pool.destroy(),
  }
}

// Words from the bench: what a person there does to a stand-in, and what the meter shows.
import { createConnection, createServer } from 'node:net'
import { createInterface } from 'node:readline'
import { listen } from './line.ts'

export const WORDS = [
  'protect',
  'unprotect',
  'busy',
  'late',
  'silent',
  'garbled',
  'normal',
  'restart',
  'input',
  'drift',
  'forget',
  'burst',
  'lose',
  'meter',
] as const
export type Word = (typeof WORDS)[number]

/** How the line behaves; one at a time. */
export type Manner = 'normal' | 'late' | 'silent' | 'garbled'
export const isManner = (word: Word): word is Manner => ['normal', 'late', 'silent', 'garbled'].includes(word)
/** Later than any master waits, ms. */
export const LATE_ms = 700

/** Answers a word, or throws an Error that says why not. */
export type Obeys = (word: Word, rest: readonly string[]) => string

const isWord = (text: string | undefined): text is Word => WORDS.some((w) => w === text)

/** One line in, one line out: `ok …`, or `no …` with why. */
export async function serveWords(port: number, obeys: Obeys): Promise<number> {
  const server = createServer((socket) => {
    socket.on('error', () => socket.destroy())
    createInterface(socket)
      .on('line', (line) => {
        const [word, ...rest] = line.trim().split(/\s+/)
        if (!isWord(word)) return socket.end(`no There is no word “${word ?? ''}”. Words: ${WORDS.join(', ')}.\n`)
        try {
          socket.end(`ok ${obeys(word, rest)}\n`)
        } catch (error) {
          socket.end(`no ${(error as Error).message}\n`)
        }
      })
      .on('error', () => undefined)
  })
  return listen(server, port)
}

/** Says a word at a control port. Resolves to what was answered. @throws Error with why not */
export function say(port: number, words: readonly string[]): Promise<string> {
  return new Promise((resolve, reject) => {
    const socket = createConnection(port, '127.0.0.1', () => socket.write(`${words.join(' ')}\n`))
    let answer = ''
    socket.setTimeout(5000, () => socket.destroy(new Error('The stand-in does not answer.')))
    socket.on('data', (data) => (answer += data.toString()))
    socket.on('error', reject)
    socket.on('end', () => {
      const [, good, text = ''] = /^(ok|no) ?(.*)\n$/.exec(answer) ?? []
      if (good === 'ok') resolve(text)
      else reject(new Error(text || 'The stand-in gave no answer.'))
    })
  })
}

/** A figure and its unit, told from the bench. @throws Error */
export function figureOf(rest: readonly string[]): { value: number; unit: string } {
  const [figure = '', unit = ''] = rest
  const value = Number(figure)
  if (!figure || !Number.isFinite(value) || !unit || rest.length > 2)
    throw new Error('It is said as “input VALUE UNIT”, for example “input 50 kPa”.')
  return { value, unit }
}

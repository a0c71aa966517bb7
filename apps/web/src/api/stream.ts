// An event stream of the server: opened again when it breaks, and ended with the session.
import { askSession, endOfThisSession } from './client.ts'

const AGAIN_ms = 1000

export interface StreamHandlers {
  /** By the name of the event. */
  readonly on: Readonly<Record<string, (text: string) => void>>
  readonly opened?: (open: boolean) => void
}

/** What every stream may be told besides its own events, and the end of the session. */
let databaseIs: (here: boolean) => void = () => undefined
export function whenStreamsTellOfDatabase(told: (here: boolean) => void): void {
  databaseIs = told
}

/** Opens a stream; returns how to close it for good. */
export function openStream(address: string, { on, opened }: StreamHandlers): () => void {
  let source: EventSource | undefined
  let again: ReturnType<typeof setTimeout> | undefined
  let closed = false

  const connect = (): void => {
    const sessionEnded = endOfThisSession()
    source = new EventSource(address)
    source.addEventListener('open', () => opened?.(true))
    for (const [name, hear] of Object.entries(on))
      source.addEventListener(name, (event) => hear((event as MessageEvent<string>).data))
    source.addEventListener('server', (event) => {
      const here = (JSON.parse((event as MessageEvent<string>).data) as { database: string }).database === 'here'
      databaseIs(here)
      // News of what another server wrote meanwhile did not come this way.
      if (here) opened?.(true)
    })
    source.addEventListener('session', () => {
      sessionEnded()
      source?.close()
      opened?.(false)
      retry()
    })
    source.addEventListener('error', () => {
      opened?.(false)
      source?.close()
      void askSession()
      retry()
    })
  }
  const retry = (): void => {
    clearTimeout(again)
    if (!closed) again = setTimeout(connect, AGAIN_ms)
  }
  connect()
  return () => {
    closed = true
    clearTimeout(again)
    source?.close()
  }
}

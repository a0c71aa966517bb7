// Sessions and their people as this process knows them for a moment: looked up once for the many requests of a page,
// and forgotten as soon as one of them ends or changes, here or on another server.
import session, { type SessionData, type Store } from 'express-session'
import { keptFor } from '../services/kept-for.ts'

/** How long a session or a person is believed where no word of a change comes. */
export const BELIEVED_ms = 2000

/** A store that asks `inner` for what it does not know. */
export class KnownSessions extends session.Store {
  private readonly inner: Store
  private readonly kept = keptFor(BELIEVED_ms, (sid) => this.ask(sid))
  constructor(inner: Store) {
    super()
    this.inner = inner
  }
  /** As text, as whoever is given a session may change it. */
  private ask(sid: string): Promise<string | null> {
    return new Promise((resolve, reject) =>
      this.inner.get(sid, (error, found) =>
        error ? reject(error as Error) : resolve(found ? JSON.stringify(found) : null),
      ),
    )
  }
  /** A session for whoever only looks; null where there is none. */
  async look(sid: string): Promise<SessionData | null> {
    const text = await this.kept.get(sid)
    return text === null ? null : (JSON.parse(text) as SessionData)
  }
  get(sid: string, then: (error: unknown, found?: SessionData | null) => void): void {
    this.look(sid).then(
      (found) => then(null, found),
      (error: unknown) => then(error),
    )
  }
  set(sid: string, data: SessionData, then?: (error?: unknown) => void): void {
    this.inner.set(sid, data, (error) => this.after(sid, then, error))
  }
  destroy(sid: string, then?: (error?: unknown) => void): void {
    this.inner.destroy(sid, (error) => this.after(sid, then, error))
  }
  private after(sid: string, then: ((error?: unknown) => void) | undefined, error: unknown): void {
    this.kept.drop(sid)
    then?.(error)
  }
  forget(): void {
    this.kept.drop()
  }
}

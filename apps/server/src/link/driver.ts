// A driver: the one small interface to a device, simulated or real. Whatever only a simulated one can do is `Bench`,
// apart from it.
import type { LinkDescription, LiveReading, TrendSample } from '@calm-loop/contract'
import type { DeviceCommand, Practice, PracticeAct } from '@calm-loop/core/device'
import type { Held } from '@calm-loop/core/procedure'

export type Witness = 'digital' | 'current' | 'electrode' | 'temperature'

/** What a driver tells to those who listen. */
export interface Listener {
  reading?(reading: LiveReading): void
  /** Twenty times a second, where the device can. */
  trend?(sample: TrendSample): void
  /** What the device works by has changed: earlier samples are no measure of how steady it is now. */
  changed?(): void
  /** The link ends before the listener left. */
  closed?(): void
}

export interface DeviceHeld {
  /** Of a transmitter, and its change log. */
  readonly held?: Held | undefined
  readonly log: readonly { readonly at: string; readonly what: string }[]
  /** Of a meter, by setup key. */
  readonly meter?: Readonly<Record<string, string>> | undefined
}

export interface Driver {
  readonly description: LinkDescription
  /** Unit of each knot that it reads, by the knot's id. */
  readonly units: Readonly<Record<string, string>>
  /** Brings the device to hand again, where its port was let go. @throws HttpProblem */
  ready(): Promise<void>
  /** How long an answer is waited for, ms. */
  readonly patience_ms: number
  /** What it shows of itself all the time; the rest is read by somebody, and typed. */
  readonly witnesses: ReadonlySet<Witness>
  /** What the device says that it holds. Undefined, or never settled, when no answer comes. @throws Refusal */
  read(): Promise<DeviceHeld | undefined>
  /** Tells it something. Undefined, or never settled, when no answer comes. @throws Refusal */
  command(command: DeviceCommand): Promise<{ readonly taken: boolean; readonly says: string } | undefined>
  /** Calls the listener until the returned function is called. */
  subscribe(listener: Listener): () => void
  /** The last reading that came. */
  latest(): LiveReading
  close(): void
}

/** The simulated world around a simulated device: for practice only, and not there where a device is real. */
export interface Bench {
  /** @throws Refusal */
  act(act: PracticeAct): Promise<void>
  /** Where the process stands. */
  processAt(): number
  practice(): { readonly transmitter?: Practice; readonly meter?: Practice }
}

/** A loop's device as the server works with it. */
export interface Link {
  readonly driver: Driver
  readonly bench?: Bench
}

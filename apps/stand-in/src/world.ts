// What belongs to the bench and not to the wire: what feeds the sensor, how it lags, drifts and scatters.

/** Where the sensor’s own reading stands, and where it is going. */
export class World {
  private damped: number
  private at = performance.now()
  private driftsSince: number | undefined

  /** @param span of the range, for errors told as a share of it */
  constructor(
    private target: number,
    private readonly span: number,
  ) {
    this.damped = target
  }

  feed(value: number): void {
    this.now(0)
    this.target = value
  }
  drift(on: boolean): void {
    this.driftsSince = on ? performance.now() : undefined
  }
  /** What the sensor gives now, behind its damping, with its drift and a little noise. */
  now(damping_s: number): number {
    const at = performance.now()
    const passed_s = (at - this.at) / 1000
    this.at = at
    const share = damping_s > 0 ? 1 - Math.exp(-passed_s / damping_s) : 1
    this.damped += share * (this.target - this.damped)
    return this.damped + this.drifted(at) + this.noise()
  }
  /** 0.4 % of span at once, and 1.5 % in two minutes. */
  private drifted(at: number): number {
    if (this.driftsSince === undefined) return 0
    return this.span * (0.004 + Math.min(0.011, ((at - this.driftsSince) / 120_000) * 0.011))
  }
  private noise(): number {
    return (Math.random() + Math.random() + Math.random() - 1.5) * this.span * 2e-5
  }
}

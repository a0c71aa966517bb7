export interface Cluster {
  readonly applicationUrl: string
  readonly ownerUrl: string
  stop(): void
  lives(): boolean
  pid(): number | undefined
  revive(): Promise<number>
}
export function openCluster(folder: string, options?: { durable?: boolean }): Promise<Cluster>
export function freePort(wanted?: number): Promise<number>
export function findPrograms(): string | undefined

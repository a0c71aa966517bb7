import type { Cluster } from './postgres.mjs'
export function serverEnv(cluster: Cluster, folder: string, port: number): Record<string, string>

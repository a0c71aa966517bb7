export function freePort(wanted?: number): Promise<number>
export function openCluster(
  folder: string,
  options?: { durable?: boolean },
): Promise<{ applicationUrl: string; ownerUrl: string; stop(): void }>

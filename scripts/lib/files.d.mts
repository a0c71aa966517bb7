export function writeWhole(file: string, text: string, mode?: number): void
export function readObject(file: string): Record<string, unknown> | undefined
export function commandOf(pid: number | undefined): string | undefined
export function holdLock(file: string): Promise<{ release(): void } | undefined>

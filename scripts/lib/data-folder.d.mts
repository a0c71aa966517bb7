export function dataFolder(empty: boolean): string
export function sealKeyFile(folder: string): string

export function dataFolder(empty: boolean): string
export function sealKeyFile(folder: string): string
export function runningNote(folder: string): string
export function backupFolder(folder: string): string | undefined
export function passphraseFile(folder: string): string

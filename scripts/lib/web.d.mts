export function ensureWebBuilt(): string

// The name of a browser and its machine, out of how it describes itself (RFC 9110, 10.1.5).

/** Such as `Linux x86_64, Firefox 128`; what cannot be told is left out. */
export function deviceName(userAgent: string): string {
  const machine = /\(([^)]*)\)/
    .exec(userAgent)?.[1]
    ?.split(';')
    .map((part) => part.trim())
    .find((part) => part !== '' && part !== 'X11')
  const program = /(Firefox|Edg|Chrome|Safari)\/(\d+)/.exec(userAgent)?.[0].replace('/', ' ')
  return [machine, program].filter(Boolean).join(', ') || 'unknown browser'
}

/** All texts of a part of a paper, one after the other. */
export const texts = (node: unknown): string => {
  if (typeof node === 'string') return node
  if (Array.isArray(node)) return node.map(texts).filter(Boolean).join(' ')
  if (typeof node !== 'object' || node === null) return ''
  return Object.entries(node)
    .flatMap(([key, value]) =>
      ['text', 'stack', 'columns', 'table', 'body', 'ul', 'qr'].includes(key) ? [texts(value)] : [],
    )
    .filter(Boolean)
    .join(' ')
}

// What the entries of a clamp-on point are made of.
export const named = (rows: readonly { readonly id: string; readonly name: string }[]) =>
  rows.map(({ id, name }) => ({ value: id, label: name }))
export const OWN = { value: 'own', label: 'own figures' }
export const only = (key: string, ...is: string[]) => ({ key, is })
export const WANTED = { required: true }

/** A field's value of any kind in a sentence. */
export const sayValue = (v: unknown): string =>
  v === null || v === undefined || v === ''
    ? 'nothing'
    : typeof v === 'object'
      ? JSON.stringify(v)
      : String(v as string | number | boolean)

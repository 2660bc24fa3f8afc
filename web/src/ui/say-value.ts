/** A field's value of any kind in a sentence. */
export const sayValue = (v: unknown): string =>
  v === null || v === undefined || v === ''
    ? 'not given'
    : Array.isArray(v)
      ? `${v.length} ${v.length === 1 ? 'row' : 'rows'}`
      : typeof v === 'object'
        ? 'given'
        : typeof v === 'boolean'
          ? v
            ? 'yes'
            : 'no'
          : String(v as string | number)
